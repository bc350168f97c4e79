<script setup lang="ts">
import { NButton } from 'naive-ui/es/button'
import { NInput } from 'naive-ui/es/input'
import ProblemNote from '@/parts/ProblemNote.vue'
import { useSecondFactor } from './useSecondFactor'
import { t } from '@/words'

const props = defineProps<{ on: boolean; app: boolean }>()
const { code, name, recovery, passkeys, begin, confirm, add, remove, off, error } = useSecondFactor(
  () => props.on,
)
const picture = (svg: string) => `data:image/svg+xml;utf8,${encodeURIComponent(svg)}`
const used = (at?: string | null) =>
  at
    ? t('connect.second_factor.last_used_on', {
        to_locale_date_string: new Date(at).toLocaleDateString(),
      })
    : t('connect.second_factor.not_used_yet')
</script>

<template>
  <section class="sheet" aria-labelledby="second-step">
    <h2 id="second-step">{{ $t('connect.second_factor.a_second_step_beside_the') }}</h2>
    <p class="soft">
      {{
        on
          ? $t('connect.second_factor.signing_in_with_your_password')
          : $t('connect.second_factor.with_an_authenticator_app_or')
      }}
    </p>
    <div v-if="recovery.length && on" class="recovery" role="status">
      <p>
        <strong>{{ $t('connect.second_factor.keep_these_recovery_codes') }}</strong>
        {{ $t('connect.second_factor.each_one_works_once_instead') }}
      </p>
      <ul>
        <li v-for="each in recovery" :key="each">
          <code>{{ each }}</code>
        </li>
      </ul>
    </div>
    <template v-if="on">
      <label for="factor-code">{{ $t('connect.second_factor.code_of_your_app_or') }}</label>
      <NInput
        v-model:value="code"
        :input-props="{ id: 'factor-code', autocomplete: 'one-time-code' }"
        placeholder=""
      />
      <p v-if="passkeys.data.value?.length" class="soft">
        {{ $t('connect.second_factor.changes_below_need_it_leave') }}
      </p>
      <p v-else class="soft">{{ $t('connect.second_factor.changes_below_need_it') }}</p>
    </template>

    <h3>{{ $t('connect.second_factor.authenticator_app') }}</h3>
    <p v-if="app">{{ $t('connect.second_factor.set_up') }}</p>
    <NButton
      v-else-if="!begin.data.value"
      :loading="begin.isPending.value"
      @click="begin.mutate()"
      >{{ $t('connect.second_factor.set_up_an_app') }}</NButton
    >
    <form v-if="!app && begin.data.value" @submit.prevent="confirm.mutate()">
      <p>{{ $t('connect.second_factor.scan_this_with_the_app') }}</p>
      <img :src="picture(begin.data.value.picture)" :alt="$t('connect.second_factor.qr')" />
      <p>
        <code class="key">{{ begin.data.value.key }}</code>
      </p>
      <label for="first-code">{{ $t('connect.second_factor.code_that_the_app_shows') }}</label>
      <NInput
        v-model:value="code"
        :input-props="{ id: 'first-code', autocomplete: 'one-time-code' }"
        placeholder=""
      />
      <NButton
        type="primary"
        attr-type="submit"
        :disabled="code.trim().length < 6"
        :loading="confirm.isPending.value"
        >{{ $t('connect.second_factor.turn_it_on') }}</NButton
      >
    </form>

    <h3>{{ $t('connect.second_factor.passkeys_and_security_keys') }}</h3>
    <ul v-if="passkeys.data.value?.length" class="keys">
      <li v-for="each in passkeys.data.value" :key="each.id" class="row">
        <span
          >{{ each.name }}<span class="soft">, {{ used(each.used_at) }}</span></span
        >
        <NButton
          class="push"
          size="small"
          :loading="remove.isPending.value && remove.variables.value === each.id"
          :aria-label="$t('connect.second_factor.remove', { name: each.name })"
          @click="remove.mutate(each.id)"
          >{{ $t('connect.second_factor.remove_2') }}</NButton
        >
      </li>
    </ul>
    <form @submit.prevent="add.mutate()">
      <label for="passkey-name">{{ $t('connect.second_factor.name_of_a_new_one') }}</label>
      <NInput
        v-model:value="name"
        :input-props="{ id: 'passkey-name', maxlength: 80, autocomplete: 'off' }"
        placeholder=""
      />
      <NButton attr-type="submit" :disabled="!name.trim()" :loading="add.isPending.value">{{
        $t('connect.second_factor.add_a_passkey')
      }}</NButton>
    </form>
    <ProblemNote :error="error" />
    <p v-if="on" class="off">
      <NButton :loading="off.isPending.value" @click="off.mutate()">{{
        $t('connect.second_factor.turn_the_second_step_off')
      }}</NButton>
    </p>
  </section>
</template>

<style scoped>
label {
  display: block;
  margin: 0.6rem 0 0.2rem;
}
h3 {
  margin: 1.2rem 0 0.4rem;
}
img {
  background: #fff;
  border-radius: 8px;
  padding: 0.4rem;
  width: 12rem;
  height: 12rem;
}
.key {
  overflow-wrap: anywhere;
}
.recovery {
  background: var(--both-wash);
  border-radius: 8px;
  padding: 0.6rem 0.9rem;
}
.recovery ul {
  columns: 2;
  margin: 0.4rem 0;
}
.keys {
  list-style: none;
  padding: 0;
}
.keys li {
  margin: 0.3rem 0;
}
form .n-button,
.off .n-button {
  margin-top: 0.9rem;
}
</style>
