<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { NButton } from 'naive-ui/es/button'
import { NInput } from 'naive-ui/es/input'
import { ref } from 'vue'
import { answered, api, type Schemas } from '@/api/client'
import CopyValue from '@/parts/CopyValue.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import { tokensQuery } from './queries'

type Scope = Schemas['NewTokenRequest']['scopes'][number]
const client = useQueryClient()
const { data: tokens } = useQuery(tokensQuery())
const name = ref('')
const scopes = ref<Scope[]>(['read'])
const again = () => client.invalidateQueries({ queryKey: ['tokens'] })
const make = useMutation({
  mutationFn: () =>
    answered(
      api.POST('/api/v1/me/tokens', { body: { name: name.value, scopes: scopes.value, days: 30 } }),
    ),
  onSuccess: () => {
    name.value = ''
    again()
  },
})
const revoke = useMutation({
  mutationFn: (token_key: string) =>
    answered(api.DELETE('/api/v1/me/tokens/{token_key}', { params: { path: { token_key } } })),
  onSuccess: again,
})
const all: [Scope, string][] = [
  ['read', 'look'],
  ['compare', 'compare scores'],
  ['change', 'pair, deploy, send'],
  ['connect', 'administer connections'],
]
</script>

<template>
  <section class="sheet" aria-labelledby="tokens">
    <h2 id="tokens">Tokens for scripts</h2>
    <p class="soft">
      A token may only do what you tick, and ends after thirty days. Its value is shown once.
    </p>
    <form @submit.prevent="make.mutate()">
      <label for="token-name">What for</label>
      <NInput
        v-model:value="name"
        size="small"
        placeholder=""
        :input-props="{ id: 'token-name', maxlength: 100 }"
      />
      <fieldset>
        <legend>It may</legend>
        <label v-for="[scope, words] in all" :key="scope"
          ><input v-model="scopes" type="checkbox" :value="scope" /> {{ words }}</label
        >
      </fieldset>
      <NButton
        attr-type="submit"
        size="small"
        :disabled="!name.trim() || !scopes.length"
        :loading="make.isPending.value"
        >Make a token</NButton
      >
    </form>
    <ProblemNote :error="make.error.value ?? revoke.error.value" />
    <dl v-if="make.data.value">
      <CopyValue label="Token" :value="make.data.value.token" help="shown this once" />
    </dl>
    <ul>
      <li v-for="token in tokens" :key="token.id" class="row">
        <span
          >{{ token.name
          }}<span class="soft">
            · {{ token.scopes.join(', ') }} · until {{ token.expires.slice(0, 10) }}</span
          ></span
        ><NButton class="push" size="tiny" @click="revoke.mutate(token.id)"
          >Revoke<span class="sr-only"> {{ token.name }}</span></NButton
        >
      </li>
    </ul>
  </section>
</template>

<style scoped>
fieldset {
  border: 0;
  padding: 0;
  margin: 0.5rem 0;
  display: flex;
  gap: 1rem;
  flex-wrap: wrap;
}
legend {
  float: left;
  margin-right: 1rem;
}
ul {
  list-style: none;
  padding: 0;
  margin: 0.8rem 0 0;
}
li {
  padding: 0.3rem 0;
  border-top: 1px solid var(--rule);
}
</style>
