<script setup lang="ts">
import ChooseOne from '@/parts/ChooseOne.vue'
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
      {{ me.username }}, {{ me.institution
      }}<span v-if="me.administrator">{{ $t('connect.access.administrator') }}</span>
    </p>
    <form class="sheet" @submit.prevent="save.mutate()">
      <h2>{{ $t('connect.access.a_password_for_the_command') }}</h2>
      <p class="soft">
        {{
          $t('connect.access.at_least_ten_characters', {
            yet: me.has_password
              ? $t('connect.access.you_have_one_a_new')
              : $t('connect.access.you_have_none_yet'),
          })
        }}
      </p>
      <label for="new-password">{{ $t('connect.access.new_password') }}</label>
      <NInput
        v-model:value="password"
        type="password"
        :input-props="{ id: 'new-password', autocomplete: 'new-password' }"
        placeholder=""
      />
      <ProblemNote :error="save.error.value" />
      <p v-if="save.isSuccess.value" role="status">
        {{ $t('connect.access.set_sign_in_with') }}
        <code>{{
          $t('connect.access.vennpair_sign_in_service_user', { service, username: me.username })
        }}</code>
      </p>
      <NButton
        type="primary"
        attr-type="submit"
        :disabled="password.length < 10"
        :loading="save.isPending.value"
        >{{ $t('connect.access.set_password') }}</NButton
      >
    </form>
    <form class="sheet" @submit.prevent>
      <h2>{{ $t('connect.access.what_the_nights_comparisons_found') }}</h2>
      <p id="digest">{{ $t('connect.access.tell_me') }}</p>
      <ChooseOne
        :value="me.digest"
        @chosen="wish.mutate($event as Wish)"
        labelledby="digest"
        :options="[
          { value: 'daily', label: $t('connect.access.every_morning_on_which_something') },
          { value: 'weekly', label: $t('connect.access.on_mondays_where_something_is') },
          { value: 'never', label: $t('connect.access.never') },
        ]"
      />
      <p class="soft">{{ $t('connect.access.in_the_week_before_grades') }}</p>
      <ProblemNote :error="wish.error.value" />
    </form>
    <SecondFactorPanel
      v-if="me.has_password"
      class="below"
      :on="me.second_factor"
      :app="me.authenticator_app"
    />
    <TokensPanel class="below" />
    <p>
      <NButton @click="signOut.mutate()">{{ $t('connect.access.sign_out') }}</NButton>
    </p>
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
form,
.below {
  margin-bottom: 1rem;
}
</style>
