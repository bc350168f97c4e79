<script setup lang="ts">
import { NButton } from 'naive-ui/es/button'
import { NRadio, NRadioGroup } from 'naive-ui/es/radio'
import type { Schemas } from '@/api/client'
import CopyValue from '@/parts/CopyValue.vue'
import JobNote from '@/parts/JobNote.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import type { Access } from './queries'
import { useFirstSteps } from './useFirstSteps'

const WAYS: Access[] = ['code', 'fee', 'free']
const props = defineProps<{ pairing: Schemas['Pairing'] }>()
const { access, page, error, choose, job } = useFirstSteps(() => props.pairing)
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
