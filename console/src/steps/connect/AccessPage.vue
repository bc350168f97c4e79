<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { NButton } from 'naive-ui/es/button'
import { NInput } from 'naive-ui/es/input'
import { ref } from 'vue'
import { useRouter } from 'vue-router'
import { answered, api } from '@/api/client'
import ProblemNote from '@/parts/ProblemNote.vue'
import { meQuery } from './queries'
import SecondFactorPanel from './SecondFactorPanel.vue'
import TokensPanel from './TokensPanel.vue'

const router = useRouter()
const client = useQueryClient()
const { data: me } = useQuery(meQuery())
const password = ref('')
const save = useMutation({
  mutationFn: () =>
    answered(api.POST('/api/v1/me/password', { body: { password: password.value } })),
  onSuccess: () => {
    password.value = ''
    client.invalidateQueries({ queryKey: ['me'] })
  },
})
type Wish = 'daily' | 'weekly' | 'never'
const wish = useMutation({
  mutationFn: (digest: Wish) => answered(api.PATCH('/api/v1/me', { body: { digest } })),
  onSuccess: () => client.invalidateQueries({ queryKey: ['me'] }),
})
const signOut = useMutation({
  mutationFn: () => answered(api.POST('/api/v1/sign-out')),
  onSuccess: async () => {
    client.clear()
    await router.push({ name: 'sign-in' })
  },
})
const service = window.location.origin
</script>

<template>
  <div v-if="me" class="page narrow">
    <h1>{{ me.name }}</h1>
    <p class="soft">
      {{ me.username }}, {{ me.institution }}<span v-if="me.administrator">, administrator</span>
    </p>
    <form class="sheet" @submit.prevent="save.mutate()">
      <h2>A password for the command line</h2>
      <p class="soft">
        {{ me.has_password ? 'You have one; a new one replaces it.' : 'You have none yet.' }} At
        least ten characters.
      </p>
      <label for="new-password">New password</label>
      <NInput
        v-model:value="password"
        type="password"
        :input-props="{ id: 'new-password', autocomplete: 'new-password' }"
        placeholder=""
      />
      <ProblemNote :error="save.error.value" />
      <p v-if="save.isSuccess.value" role="status">
        Set. Sign in with
        <code>vennpair sign-in --service {{ service }} --user {{ me.username }}</code>
      </p>
      <NButton
        type="primary"
        attr-type="submit"
        :disabled="password.length < 10"
        :loading="save.isPending.value"
        >Set password</NButton
      >
    </form>
    <form class="sheet" @submit.prevent>
      <h2>What the nights' comparisons found</h2>
      <label for="digest">Tell me</label>
      <select
        id="digest"
        :value="me.digest"
        @change="wish.mutate(($event.target as HTMLSelectElement).value as Wish)"
      >
        <option value="daily">every morning on which something is new</option>
        <option value="weekly">on Mondays, where something is open</option>
        <option value="never">never</option>
      </select>
      <p class="soft">In the week before grades are due, also what keeps them back.</p>
      <ProblemNote :error="wish.error.value" />
    </form>
    <SecondFactorPanel
      v-if="me.has_password"
      class="below"
      :on="me.second_factor"
      :app="me.authenticator_app"
    />
    <TokensPanel class="below" />
    <p><NButton @click="signOut.mutate()">Sign out</NButton></p>
  </div>
</template>

<style scoped>
.narrow {
  max-width: 36rem;
}
label {
  display: block;
  margin: 0.6rem 0 0.2rem;
}
form .n-button {
  margin-top: 0.9rem;
}
select {
  font: inherit;
  color: inherit;
  background: var(--paper);
  border: 1px solid var(--rule);
  border-radius: 6px;
  padding: 0.3rem 0.5rem;
  max-width: 100%;
}
form,
.below {
  margin-bottom: 1rem;
}
</style>
