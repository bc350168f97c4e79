<script setup lang="ts">
import { NButton } from 'naive-ui/es/button'
import { NInput } from 'naive-ui/es/input'
import type { Schemas } from '@/api/client'
import { dateOf } from '@/logic/dates'
import { t } from '@/words'

/** The passkeys of who is signed in, and the name of a new one. */
defineProps<{ keys: Schemas['Passkey'][]; adding: boolean; removing?: number }>()
defineEmits<{ add: []; remove: [id: number] }>()
const name = defineModel<string>({ required: true })
const used = (at?: string | null) =>
  at
    ? t('connect.second_factor.last_used_on', { to_locale_date_string: dateOf(at) })
    : t('connect.second_factor.not_used_yet')
</script>

<template>
  <h3>{{ $t('connect.second_factor.passkeys_and_security_keys') }}</h3>
  <ul v-if="keys.length" class="keys">
    <li v-for="each in keys" :key="each.id" class="row">
      <span
        >{{ each.name }}<span class="soft">, {{ used(each.used_at) }}</span></span
      >
      <NButton
        class="push"
        size="small"
        :loading="removing === each.id"
        :aria-label="$t('connect.second_factor.remove', { name: each.name })"
        @click="$emit('remove', each.id)"
        >{{ $t('connect.second_factor.remove_2') }}</NButton
      >
    </li>
  </ul>
  <form @submit.prevent="$emit('add')">
    <label for="passkey-name">{{ $t('connect.second_factor.name_of_a_new_one') }}</label>
    <NInput
      v-model:value="name"
      :input-props="{ id: 'passkey-name', maxlength: 80, autocomplete: 'off' }"
      placeholder=""
    />
    <NButton attr-type="submit" :disabled="!name.trim()" :loading="adding">{{
      $t('connect.second_factor.add_a_passkey')
    }}</NButton>
  </form>
</template>

<style scoped>
label {
  display: block;
  margin: 0.6rem 0 0.2rem;
}
h3 {
  margin: 1.2rem 0 0.4rem;
}
.keys {
  list-style: none;
  padding: 0;
}
.keys li {
  margin: 0.3rem 0;
}
form .n-button {
  margin-top: 0.9rem;
}
</style>
