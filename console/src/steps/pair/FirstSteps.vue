<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { NButton } from 'naive-ui/es/button'
import { computed, ref } from 'vue'
import { answered, api, type Schemas } from '@/api/client'
import CopyValue from '@/parts/CopyValue.vue'
import { useJob } from '@/parts/job'
import JobNote from '@/parts/JobNote.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import { type Access, firstStepsQuery } from './queries'

const props = defineProps<{ pairing: Schemas['Pairing'] }>()
const client = useQueryClient()
const access = ref<Access>((props.pairing.access || 'code') as Access)
const { data: page, error } = useQuery(
  computed(() => firstStepsQuery(props.pairing.id, access.value)),
)
const choose = useMutation({
  mutationFn: (place: boolean) =>
    answered(
      api.POST('/api/v1/pairings/{id}/first-steps', {
        params: { path: { id: props.pairing.id } },
        body: { access: access.value, place },
      }),
    ),
  onSuccess: () => client.invalidateQueries({ queryKey: ['pairing', props.pairing.id] }),
})
const { job } = useJob(
  computed(() => choose.data.value?.job?.id),
  computed(() => props.pairing.id),
)
const ways: [Access, string][] = [
  ['code', 'with an access code'],
  ['fee', 'by a course fee'],
  ['free', 'it costs nothing'],
]
</script>

<template>
  <fieldset>
    <legend>How learners pay for access</legend>
    <label v-for="[value, words] in ways" :key="value"
      ><input v-model="access" type="radio" name="access" :value="value" /> {{ words }}</label
    >
  </fieldset>
  <dl v-if="page"><CopyValue label="The text to hand out" :value="page.text" /></dl>
  <div v-if="pairing.may_change" class="row">
    <NButton
      size="small"
      type="primary"
      :loading="choose.isPending.value && choose.variables.value"
      @click="choose.mutate(true)"
      >Place it at the top of the shell</NButton
    >
    <NButton
      size="small"
      :loading="choose.isPending.value && !choose.variables.value"
      @click="choose.mutate(false)"
      >I hand it out myself</NButton
    >
    <span v-if="choose.data.value && !choose.data.value.job" role="status">Noted.</span>
  </div>
  <JobNote v-if="job" :job="job" doing="Placing the page" />
  <ProblemNote :error="error ?? choose.error.value" />
</template>

<style scoped>
fieldset {
  border: 0;
  padding: 0;
  margin: 0 0 0.4rem;
  display: flex;
  gap: 1rem;
  flex-wrap: wrap;
}
legend {
  font-weight: 600;
  margin-bottom: 0.2rem;
}
dl {
  margin: 0 0 0.7rem;
}
</style>
