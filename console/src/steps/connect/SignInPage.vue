<script setup lang="ts">
import { useMutation, useQueryClient } from '@tanstack/vue-query'
import { NButton } from 'naive-ui/es/button'
import { NInput } from 'naive-ui/es/input'
import { ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { answered, api } from '@/api/client'
import ProblemNote from '@/parts/ProblemNote.vue'

const route = useRoute()
const router = useRouter()
const client = useQueryClient()
const username = ref('')
const password = ref('')

const signIn = useMutation({
  mutationFn: () =>
    answered(
      api.POST('/api/v1/sign-in', {
        body: { username: username.value, password: password.value, session: true },
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
</script>

<template>
  <div class="page narrow">
    <h1>Come in from your course</h1>
    <p>
      Open your course on the course platform and press <strong>Open Venn Pair</strong>. That is
      all: the platform tells us who you are.
    </p>
    <form class="sheet" @submit.prevent="signIn.mutate()">
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
      <ProblemNote :error="signIn.error.value" />
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
label {
  display: block;
  margin: 0.6rem 0 0.2rem;
}
form .n-button {
  margin-top: 0.9rem;
}
</style>
