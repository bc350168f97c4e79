<script setup lang="ts">
import { NButton } from 'naive-ui/es/button'
import { NInput } from 'naive-ui/es/input'
import { computed } from 'vue'
import type { useSecondFactor } from './useSecondFactor'

type Factor = ReturnType<typeof useSecondFactor>
/** An authenticator app: its key as a picture and as text, and the first code that it shows. */
const props = defineProps<{ app: boolean; begin: Factor['begin']; confirm: Factor['confirm'] }>()
const code = defineModel<string>({ required: true })
const made = computed(() => props.begin.data.value)
const picture = (svg: string) => `data:image/svg+xml;utf8,${encodeURIComponent(svg)}`
</script>

<template>
  <h3>{{ $t('connect.second_factor.authenticator_app') }}</h3>
  <p v-if="app">{{ $t('connect.second_factor.set_up') }}</p>
  <NButton v-else-if="!made" :loading="begin.isPending.value" @click="begin.mutate()">{{
    $t('connect.second_factor.set_up_an_app')
  }}</NButton>
  <form v-if="!app && made" @submit.prevent="confirm.mutate()">
    <p>{{ $t('connect.second_factor.scan_this_with_the_app') }}</p>
    <img :src="picture(made.picture)" :alt="$t('connect.second_factor.qr')" />
    <p>
      <code class="key">{{ made.key }}</code>
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
form .n-button {
  margin-top: 0.9rem;
}
</style>
