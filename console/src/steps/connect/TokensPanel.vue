<script setup lang="ts">
import { NCheckbox, NCheckboxGroup } from 'naive-ui/es/checkbox'
import { NButton } from 'naive-ui/es/button'
import { NInput } from 'naive-ui/es/input'
import { dateOf } from '@/logic/dates'
import CopyValue from '@/parts/CopyValue.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import { t } from '@/words'
import { type Scope, useTokens } from './useTokens'

const { tokens, name, scopes, make, revoke } = useTokens()
const all: [Scope, string][] = [
  ['read', t('connect.tokens.look')],
  ['compare', t('connect.tokens.compare_scores')],
  ['change', t('connect.tokens.pair_deploy_send')],
  ['connect', t('connect.tokens.administer_connections')],
]
const words: Record<string, string> = Object.fromEntries(all)
</script>

<template>
  <section class="sheet" aria-labelledby="tokens">
    <h2 id="tokens">{{ $t('connect.tokens.tokens_for_scripts') }}</h2>
    <p class="soft">
      {{ $t('connect.tokens.a_token_may_only_do') }}
    </p>
    <form @submit.prevent="make.mutate()">
      <label for="token-name">{{ $t('connect.tokens.what_for') }}</label>
      <NInput
        v-model:value="name"
        size="small"
        placeholder=""
        :input-props="{ id: 'token-name', maxlength: 100 }"
      />
      <p id="scopes">{{ $t('connect.tokens.it_may') }}</p>
      <NCheckboxGroup v-model:value="scopes" aria-labelledby="scopes">
        <NCheckbox v-for="[scope, words] in all" :key="scope" :value="scope">{{ words }}</NCheckbox>
      </NCheckboxGroup>
      <NButton
        attr-type="submit"
        size="small"
        :disabled="!name.trim() || !scopes.length"
        :loading="make.isPending.value"
        >{{ $t('connect.tokens.make_a_token') }}</NButton
      >
    </form>
    <ProblemNote :error="make.error.value ?? revoke.error.value" />
    <dl v-if="make.data.value">
      <CopyValue
        :label="$t('connect.tokens.token')"
        :value="make.data.value.token"
        :help="$t('connect.tokens.shown_this_once')"
      />
    </dl>
    <ul>
      <li v-for="token in tokens" :key="token.id" class="row">
        <span
          >{{ token.name }}
          <span class="soft">{{
            $t('connect.tokens.until', {
              scopes: token.scopes.map((each) => words[each] ?? each).join(', '),
              expires: dateOf(token.expires),
            })
          }}</span></span
        ><NButton class="push" size="tiny" @click="revoke.mutate(token.id)"
          >{{ $t('connect.tokens.revoke') }}<span class="sr-only"> {{ token.name }}</span></NButton
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
