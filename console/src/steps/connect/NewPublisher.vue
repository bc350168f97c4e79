<script setup lang="ts">
import { useMutation, useQueryClient } from '@tanstack/vue-query'
import { NButton } from 'naive-ui/es/button'
import { ref } from 'vue'
import { answered, api, type Schemas } from '@/api/client'
import FieldForm from '@/parts/FieldForm.vue'
import { keyFields, onerosterFields, publisherName } from './fields'

const client = useQueryClient()
const again = () => client.invalidateQueries({ queryKey: ['publishers'] })
const opened = ref(false)
const invite = useMutation({
  mutationFn: (body: Schemas['InvitePublisherRequest']) =>
    answered(api.POST('/api/v1/connections/publishers/invite', { body })),
  onSuccess: () => (opened.value = false),
})
const add = useMutation({
  mutationFn: (body: Schemas['NewPublisherRequest']) =>
    answered(api.POST('/api/v1/connections/publishers', { body })),
  onSuccess: again,
})
const inviteFields = [
  {
    name: 'registration_url',
    label: 'Registration address of the publisher',
    help: 'Its support or documentation names it; also registration initiation address.',
  },
  { ...publisherName, optional: true },
]

function open(address: string) {
  // With an opener, so that the publisher's page can say that it is done and be closed.
  const page = window.open(address, '_blank')
  opened.value = page !== null
  const listen = (event: MessageEvent) => {
    if (event.source !== page || event.data?.subject !== 'org.imsglobal.lti.close') return
    window.removeEventListener('message', listen)
    again()
  }
  window.addEventListener('message', listen)
}
</script>

<template>
  <details class="sheet">
    <summary>Connect a publisher</summary>
    <h4>1. Let it register itself</h4>
    <FieldForm
      prefix="invite"
      :fields="inviteFields"
      action="Make the link"
      :busy="invite.isPending.value"
      :error="invite.error.value"
      @save="invite.mutate($event as never)"
    />
    <div v-if="invite.data.value" class="ready">
      <p>
        Ready. The publisher's page opens in a new window and registers with us; come back here
        then.
      </p>
      <div class="row">
        <NButton size="small" type="primary" @click="open(invite.data.value.open)"
          >Open the publisher's page</NButton
        ><NButton size="small" @click="again()">It has registered: show it</NButton>
      </div>
      <p v-if="invite.data.value && opened" class="soft">
        If no window came, your browser blocks pop-ups for this page; allow them and press again.
      </p>
    </div>
    <h4>2. By hand, LTI 1.3</h4>
    <p>Say its name first: our values for it are then shown to copy, and its own can be entered.</p>
    <FieldForm
      prefix="name"
      :fields="[publisherName]"
      action="Reserve our values for it"
      :busy="add.isPending.value"
      :error="add.error.value"
      @save="add.mutate($event as never)"
    />
    <h4>3. By key and secret, LTI 1.1</h4>
    <p>Only where the publisher has nothing newer.</p>
    <FieldForm
      prefix="key"
      :fields="[publisherName, ...keyFields, ...onerosterFields]"
      action="Save the publisher"
      :busy="add.isPending.value"
      :error="add.error.value"
      @save="add.mutate({ ...$event, speaks: 'lti11' } as never)"
    />
  </details>
</template>

<style scoped>
summary {
  font-weight: 650;
  cursor: pointer;
}
h4 {
  margin: 1.1rem 0 0.3rem;
}
.ready {
  background: var(--both-wash);
  border-radius: 8px;
  padding: 0.6rem 0.9rem;
  margin-top: 0.6rem;
}
</style>
