<script setup lang="ts">
import { useMutation, useQueryClient } from '@tanstack/vue-query'
import { NAlert } from 'naive-ui/es/alert'
import { NButton } from 'naive-ui/es/button'
import { onBeforeUnmount, ref } from 'vue'
import { answered, api, type Schemas } from '@/api/client'
import ProblemNote from '@/parts/ProblemNote.vue'

const LOOK_EVERY = 2000 // milliseconds between looks while the other window is open
defineProps<{ account: Schemas['Account'] }>()
const client = useQueryClient()
const opened = ref(false)
let timer: ReturnType<typeof setInterval> | undefined
const again = () => client.invalidateQueries({ queryKey: ['accounts'] })
const link = useMutation({
  mutationFn: ({ publisher }: { publisher: string; window: Window | null }) =>
    answered(api.POST('/api/v1/accounts', { body: { publisher } })),
  onSuccess: (begun, { window: other }) => {
    if (other) other.location.assign(begun.open)
    else window.location.assign(begun.open) // a browser that opens no windows
    opened.value = true
    timer ??= setInterval(again, LOOK_EVERY)
  },
  onError: (_, { window: other }) => other?.close(), // what went wrong is said here, not there
})
const confirm = useMutation({
  mutationFn: (id: string) =>
    answered(api.POST('/api/v1/accounts/{id}/confirm', { params: { path: { id } } })),
  onSuccess: again,
})
// Opened in the click itself: a window that opens later is taken for an unwanted one.
const open = (publisher: string) => link.mutate({ publisher, window: window.open('', '_blank') })
onBeforeUnmount(() => clearInterval(timer))
</script>

<template>
  <NAlert
    type="info"
    :title="
      $t('set_up.account_step.link_your_account_at_first', {
        publisher_name: account.publisher_name,
      })
    "
  >
    <p v-if="account.state === 'pending'">{{ account.warning }}</p>
    <p v-else-if="opened">
      {{ $t('set_up.account_step.sign_in_at_in_the', { publisher_name: account.publisher_name }) }}
    </p>
    <p v-else>
      {{
        $t('set_up.account_step.makes_the_course_in_your', {
          publisher_name: account.publisher_name,
        })
      }}
    </p>
    <NButton
      v-if="account.state === 'pending' && account.id"
      size="small"
      type="primary"
      :loading="confirm.isPending.value"
      @click="confirm.mutate(account.id)"
      >{{ $t('set_up.account_step.it_is_mine_confirm') }}</NButton
    >
    <NButton
      size="small"
      :type="opened ? 'default' : 'primary'"
      :loading="link.isPending.value"
      @click="open(account.publisher)"
      >{{
        opened ? $t('set_up.account_step.open_it_again') : $t('set_up.account_step.link_my_account')
      }}</NButton
    >
    <ProblemNote :error="link.error.value ?? confirm.error.value" />
  </NAlert>
</template>

<style scoped>
p {
  margin: 0 0 0.5rem;
}
.n-button + .n-button {
  margin-left: 0.5rem;
}
</style>
