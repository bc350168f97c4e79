<script setup lang="ts">
import { useMutation, useQueryClient } from '@tanstack/vue-query'
import { NButton } from 'naive-ui/es/button'
import { computed, ref } from 'vue'
import { answered, api, type Schemas } from '@/api/client'
import FieldForm from '@/parts/FieldForm.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import { changePlatformFields } from './fields'
import HandshakeList from './HandshakeList.vue'

const props = defineProps<{ platform: Schemas['Platform'] }>()
const client = useQueryClient()
const path = computed(() => ({ id: props.platform.id }))
const editing = ref(false)
const check = useMutation({
  mutationFn: () =>
    answered(
      api.POST('/api/v1/connections/platforms/{id}/check', { params: { path: path.value } }),
    ),
})
const change = useMutation({
  mutationFn: (body: Schemas['PatchedChangePlatformRequest']) =>
    answered(
      api.PATCH('/api/v1/connections/platforms/{id}', { params: { path: path.value }, body }),
    ),
  onSuccess: () => {
    editing.value = false
    client.invalidateQueries({ queryKey: ['platforms'] })
  },
})
const state = computed(() =>
  !props.platform.active
    ? 'out of use'
    : props.platform.launched_at
      ? 'connected'
      : 'registered, never launched',
)
</script>

<template>
  <article class="sheet">
    <div class="row">
      <h3 class="right-ink">{{ platform.name }}</h3>
      <span class="soft"
        >{{ state }} · {{ platform.shells }} {{ platform.shells === 1 ? 'shell' : 'shells' }}</span
      >
    </div>
    <p class="soft address">{{ platform.issuer }} · client id {{ platform.client_id }}</p>
    <div v-for="deployment in platform.asked_deployments" :key="deployment" class="ask">
      <span
        >Somebody launched from deployment <code>{{ deployment }}</code>, which is not accepted.
        Nothing was let in.</span
      >
      <NButton
        size="small"
        :loading="change.isPending.value"
        @click="change.mutate({ deployment_ids: [...platform.deployment_ids, deployment] })"
        >It is ours: accept</NButton
      >
    </div>
    <div class="row">
      <NButton size="small" type="primary" :loading="check.isPending.value" @click="check.mutate()"
        >Check the connection</NButton
      >
      <NButton size="small" @click="editing = !editing">{{ editing ? 'Close' : 'Change' }}</NButton>
      <NButton size="small" @click="change.mutate({ active: !platform.active })">{{
        platform.active ? 'Take out of use' : 'Use again'
      }}</NButton>
    </div>
    <ProblemNote :error="check.error.value" />
    <HandshakeList v-if="check.data.value" :steps="check.data.value" />
    <FieldForm
      v-if="editing"
      :prefix="platform.id"
      :fields="changePlatformFields"
      :values="platform"
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
  border-left: 5px solid var(--right);
}
h3 {
  margin: 0;
  font-size: 1.05rem;
}
.address {
  overflow-wrap: anywhere;
  font-size: 0.9rem;
}
.ask {
  background: var(--alarm-wash);
  border-radius: 8px;
  padding: 0.5rem 0.8rem;
  margin-bottom: 0.6rem;
}
.ask code {
  overflow-wrap: anywhere;
}
form {
  margin-top: 0.8rem;
}
</style>
