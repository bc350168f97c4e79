<script setup lang="ts">
import { NAlert } from 'naive-ui/es/alert'
import { NButton } from 'naive-ui/es/button'
import type { Schemas } from '@/api/client'
import ProblemNote from '@/parts/ProblemNote.vue'
import { useLinking } from './useLinking'

defineProps<{ account: Schemas['Account'] }>()
const { opened, open, link, confirm } = useLinking()
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
