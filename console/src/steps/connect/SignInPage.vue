<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { NButton } from 'naive-ui/es/button'
import { NInput } from 'naive-ui/es/input'
import { computed, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { answered, api, Problem } from '@/api/client'
import ProblemNote from '@/parts/ProblemNote.vue'
import { waysQuery } from './queries'
import { askPasskey, inWords } from './useSecondFactor'

const route = useRoute()
const router = useRouter()
const client = useQueryClient()
const username = ref('')
const password = ref('')
const code = ref('')
const { data: ways } = useQuery(waysQuery())

const signIn = useMutation({
  mutationFn: (passkey?: Record<string, unknown>) =>
    answered(
      api.POST('/api/v1/sign-in', {
        body: {
          username: username.value,
          password: password.value,
          code: passkey ? '' : code.value,
          session: true,
          ...(passkey ? { passkey } : {}),
        },
      }),
    ),
  onSuccess: async () => {
    await client.resetQueries()
    const next =
      typeof route.query.next === 'string' &&
      route.query.next.startsWith('/') &&
      !route.query.next.startsWith('//')
        ? route.query.next
        : '/'
    await router.replace(next)
  },
})
/** Answer the service's challenge with a passkey of this browser, and sign in. */
const byPasskey = useMutation({
  mutationFn: async () => signIn.mutateAsync(await askPasskey(challenge.value ?? {})),
})
const challenge = computed(() =>
  signIn.error.value instanceof Problem
    ? (signIn.error.value.facts.passkey as Record<string, unknown> | undefined)
    : undefined,
)
const said = computed(() => (signIn.error.value instanceof Problem ? signIn.error.value.code : ''))
const asksForCode = computed(() => said.value === 'code_needed')
const needsCode = computed(
  () => asksForCode.value || said.value === 'wrong_code' || code.value !== '',
)
</script>

<template>
  <div class="page narrow">
    <h1>Come in from your course</h1>
    <p>
      Open your course on the course platform and press <strong>Open Venn Pair</strong>. That is
      all: the platform tells us who you are.
    </p>
    <nav v-if="ways?.length" class="sheet" aria-label="Sign in at your college">
      <h2>Or at your college</h2>
      <p v-for="way in ways" :key="way.address">
        <NButton tag="a" :href="way.address">Sign in at {{ way.name }}</NButton>
      </p>
    </nav>
    <form class="sheet" @submit.prevent="signIn.mutate(undefined)">
      <h2>Or with a password</h2>
      <p class="soft">For administrators, and for instructors who have set one under their name.</p>
      <label for="username">Name, usually your email address</label>
      <NInput
        v-model:value="username"
        :input-props="{ id: 'username', autocomplete: 'username' }"
        placeholder=""
      />
      <label for="password">Password</label>
      <NInput
        v-model:value="password"
        type="password"
        :input-props="{ id: 'password', autocomplete: 'current-password' }"
        placeholder=""
      />
      <p v-if="challenge">
        <NButton :loading="byPasskey.isPending.value" @click="byPasskey.mutate()"
          >Use a passkey</NButton
        >
      </p>
      <template v-if="needsCode">
        <label for="code">Code of your authenticator app, or a recovery code</label>
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
        >Sign in</NButton
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
