<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { NButton } from 'naive-ui/es/button'
import { NRadio, NRadioGroup } from 'naive-ui/es/radio'
import { computed, ref } from 'vue'
import { answered, api, type Schemas } from '@/api/client'
import CopyValue from '@/parts/CopyValue.vue'
import { useJob } from '@/parts/job'
import JobNote from '@/parts/JobNote.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import { type Access, firstStepsQuery } from './queries'

const WAYS: Access[] = ['code', 'fee', 'free']
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
</script>

<template>
  <h3 id="pay">{{ $t('first.pay') }}</h3>
  <NRadioGroup v-model:value="access" name="access" aria-labelledby="pay">
    <NRadio v-for="way in WAYS" :key="way" :value="way">{{ $t(`first.way.${way}`) }}</NRadio>
  </NRadioGroup>
  <dl v-if="page"><CopyValue :label="$t('first.text')" :value="page.text" /></dl>
  <div v-if="pairing.may_change" class="row">
    <NButton
      size="small"
      type="primary"
      :loading="choose.isPending.value && choose.variables.value"
      @click="choose.mutate(true)"
      >{{ $t('first.place') }}</NButton
    >
    <NButton
      size="small"
      :loading="choose.isPending.value && !choose.variables.value"
      @click="choose.mutate(false)"
      >{{ $t('first.by_hand') }}</NButton
    >
    <span v-if="choose.data.value && !choose.data.value.job" role="status">{{
      $t('common.saved')
    }}</span>
  </div>
  <JobNote v-if="job" :job="job" :doing="$t('first.placing')" />
  <ProblemNote :error="error ?? choose.error.value" />
</template>

<style scoped>
h3 {
  font-size: 0.95rem;
  margin: 0 0 0.3rem;
}
dl {
  margin: 0.4rem 0 0.7rem;
}
</style>
