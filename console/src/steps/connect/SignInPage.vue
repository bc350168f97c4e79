<script setup lang="ts">
import { NButton } from 'naive-ui/es/button'
import { NInput } from 'naive-ui/es/input'
import ProblemNote from '@/parts/ProblemNote.vue'
import { inWords } from './useSecondFactor'
import { useSignIn } from './useSignIn'

const { ways, username, password, code, signIn, byPasskey, challenge, asksForCode, needsCode } =
  useSignIn()
</script>

<template>
  <div class="page narrow">
    <h1>{{ $t('connect.sign_in.come_in_from_your_course') }}</h1>
    <p>
      {{ $t('connect.sign_in.open_your_course_on_the') }}
      <strong>{{ $t('connect.sign_in.open_venn_pair') }}</strong>{{
        $t('connect.sign_in.that_is_all_the_platform')
      }}
    </p>
    <nav
      v-if="ways?.length"
      class="sheet"
      :aria-label="$t('connect.sign_in.sign_in_at_your_college')"
    >
      <h2>{{ $t('connect.sign_in.or_at_your_college') }}</h2>
      <p v-for="way in ways" :key="way.address">
        <NButton tag="a" :href="way.address">{{
          $t('connect.sign_in.sign_in_at', { name: way.name })
        }}</NButton>
      </p>
    </nav>
    <form class="sheet" @submit.prevent="signIn.mutate(undefined)">
      <h2>{{ $t('connect.sign_in.or_with_a_password') }}</h2>
      <p class="soft">{{ $t('connect.sign_in.for_administrators_and_for_instructo') }}</p>
      <label for="username">{{ $t('connect.sign_in.name_usually_your_email_address') }}</label>
      <NInput
        v-model:value="username"
        :input-props="{ id: 'username', autocomplete: 'username' }"
        placeholder=""
      />
      <label for="password">{{ $t('connect.sign_in.password') }}</label>
      <NInput
        v-model:value="password"
        type="password"
        :input-props="{ id: 'password', autocomplete: 'current-password' }"
        placeholder=""
      />
      <p v-if="challenge">
        <NButton :loading="byPasskey.isPending.value" @click="byPasskey.mutate()">{{
          $t('connect.sign_in.use_a_passkey')
        }}</NButton>
      </p>
      <template v-if="needsCode">
        <label for="code">{{ $t('connect.sign_in.code_of_your_authenticator_app') }}</label>
        <NInput
          v-model:value="code"
          :input-props="{ id: 'code', autocomplete: 'one-time-code' }"
          placeholder=""
        />
      </template>
      <ProblemNote v-if="!asksForCode" :error="signIn.error.value" />
      <ProblemNote v-else :error="inWords(byPasskey.error.value)" />
      <NButton
        type="primary"
        attr-type="submit"
        :loading="signIn.isPending.value"
        :disabled="!username || !password"
        >{{ $t('connect.sign_in.sign_in') }}</NButton
      >
    </form>
  </div>
</template>

<style scoped>
.narrow {
  max-width: 32rem;
}
nav {
  margin-bottom: 1rem;
}
nav p {
  margin: 0.5rem 0 0;
}
label {
  display: block;
  margin: 0.6rem 0 0.2rem;
}
form .n-button {
  margin-top: 0.9rem;
}
</style>
