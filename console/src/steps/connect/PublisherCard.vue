<script setup lang="ts">
import { useMutation, useQueryClient } from '@tanstack/vue-query'
import { NButton } from 'naive-ui/es/button'
import { computed, ref } from 'vue'
import { answered, api, type Schemas } from '@/api/client'
import CopyValue from '@/parts/CopyValue.vue'
import FieldForm from '@/parts/FieldForm.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import { keyFields, launchFields, onerosterFields, publisherName } from './fields'
import HandshakeList from './HandshakeList.vue'

const props = defineProps<{ publisher: Schemas['Publisher'] }>()
const client = useQueryClient()
const path = computed(() => ({ id: props.publisher.id }))
const open = ref<'' | 'change' | 'card'>('')
const check = useMutation({
  mutationFn: () =>
    answered(
      api.POST('/api/v1/connections/publishers/{id}/check', { params: { path: path.value } }),
    ),
  onSuccess: () => client.invalidateQueries({ queryKey: ['publishers'] }),
})
const change = useMutation({
  mutationFn: (body: Schemas['PatchedChangePublisherRequest']) =>
    answered(
      api.PATCH('/api/v1/connections/publishers/{id}', { params: { path: path.value }, body }),
    ),
  onSuccess: () => {
    open.value = ''
    client.invalidateQueries({ queryKey: ['publishers'] })
  },
})
const fields = computed(() => [
  publisherName,
  ...(props.publisher.speaks === 'lti11' ? keyFields : launchFields),
  ...onerosterFields,
])
const state = computed(() => {
  if (!props.publisher.active) return 'out of use'
  if (!props.publisher.can_launch) return 'waits for its values'
  return props.publisher.has_oneroster_secret
    ? 'connected'
    : 'launches; OneRoster access is missing'
})
const labels: Record<string, string> = {
  issuer: 'Issuer',
  client_id: 'Client id',
  deployment_id: 'Deployment id',
  authorization_url: 'Authorisation address',
  token_url: 'Token address',
  jwks_url: 'Key set address',
}
</script>

<template>
  <article class="sheet">
    <div class="row">
      <h3 class="left-ink">{{ publisher.name }}</h3>
      <span class="soft"
        >{{ state }} · {{ publisher.courses }} courses ·
        {{ publisher.speaks === 'lti11' ? 'LTI 1.1, key and secret' : 'LTI 1.3' }}</span
      >
    </div>
    <p class="soft address">
      {{ publisher.launch_url || 'Give it our values below, then enter its own.'
      }}<template v-if="publisher.features.length">
        · lets us: {{ publisher.features.join(', ') }}</template
      >
    </p>
    <div class="row">
      <NButton size="small" type="primary" :loading="check.isPending.value" @click="check.mutate()"
        >Check the connection</NButton
      >
      <NButton size="small" @click="open = open === 'change' ? '' : 'change'">{{
        open === 'change' ? 'Close' : 'Enter its values'
      }}</NButton>
      <NButton
        v-if="publisher.speaks === 'lti13'"
        size="small"
        @click="open = open === 'card' ? '' : 'card'"
        >{{ open === 'card' ? 'Close' : 'Our values for it' }}</NButton
      >
      <NButton size="small" @click="change.mutate({ active: !publisher.active })">{{
        publisher.active ? 'Take out of use' : 'Use again'
      }}</NButton>
    </div>
    <ProblemNote :error="check.error.value" />
    <HandshakeList v-if="check.data.value" :steps="check.data.value" />
    <dl v-if="open === 'card'">
      <CopyValue
        v-for="(value, name) in publisher.card"
        :key="name"
        :label="labels[name] ?? String(name)"
        :value="String(value)"
      />
    </dl>
    <FieldForm
      v-if="open === 'change'"
      :prefix="publisher.id"
      :fields="fields"
      :values="publisher"
      action="Save"
      :busy="change.isPending.value"
      :error="change.error.value"
      @save="change.mutate($event)"
    />
  </article>
</template>

<style scoped>
article {
  margin-bottom: 0.8rem;
  border-left: 5px solid var(--left);
}
h3 {
  margin: 0;
  font-size: 1.05rem;
}
.address {
  overflow-wrap: anywhere;
  font-size: 0.9rem;
}
form {
  margin-top: 0.8rem;
}
</style>
