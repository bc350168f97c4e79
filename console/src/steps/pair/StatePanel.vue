<script setup lang="ts">
import { NButton } from 'naive-ui/es/button'
import { toRef } from 'vue'
import type { Schemas } from '@/api/client'
import { dateOf } from '@/logic/dates'
import { stateName } from '@/logic/states'
import ProblemNote from '@/parts/ProblemNote.vue'
import ConsentPanel from './ConsentPanel.vue'
import { NEXT, useState } from './useState'

const props = defineProps<{ pairing: Schemas['Pairing'] }>()
const { target, foresee, change, consent, agree, withdraw, error } = useState(
  toRef(props, 'pairing'),
)
</script>

<template>
  <p>
    {{ $t('pair.is_now', { state: stateName('state', pairing.state) }) }}
    {{ $t('pair.see_effects') }}
  </p>
  <div class="row">
    <NButton
      v-for="state in NEXT[pairing.state] ?? ['ended']"
      :key="state"
      size="small"
      :loading="foresee.isPending.value && foresee.variables.value === state"
      @click="foresee.mutate(state)"
      >{{ $t(`pair.to.${pairing.state === 'ended' ? 'restore' : state}`) }} …</NButton
    >
  </div>
  <div v-if="target" class="ahead" role="alert">
    <ul>
      <li v-for="sentence in foresee.data.value?.consequences" :key="sentence">{{ sentence }}</li>
      <li v-if="!foresee.data.value?.consequences.length">{{ $t('pair.restored_paused') }}</li>
    </ul>
    <div class="row">
      <NButton
        size="small"
        type="primary"
        :loading="change.isPending.value"
        @click="change.mutate(target)"
        >{{ $t(`pair.to.${pairing.state === 'ended' ? 'restore' : target}`) }}</NButton><NButton
        size="small"
        @click="foresee.reset()"
        >{{ $t('common.cancel') }}</NButton
      >
    </div>
  </div>
  <ProblemNote :error="error" />
  <template v-if="consent">
    <h3>{{ $t('consent.title') }}</h3>
    <ConsentPanel :shell="pairing.shell.id" />
    <p class="row given">
      <template v-if="consent.agreed"
        ><span>{{ $t('consent.given', { by: consent.by, on: dateOf(consent.at) }) }}</span
        ><NButton size="small" :loading="withdraw.isPending.value" @click="withdraw.mutate()">{{
          $t(pairing.state === 'live' ? 'consent.withdraw_pause' : 'consent.withdraw')
        }}</NButton></template
      >
      <template v-else
        ><strong>{{ $t('consent.missing') }}</strong
        ><NButton
          size="small"
          type="primary"
          :loading="agree.isPending.value"
          @click="agree.mutate()"
          >{{ $t('consent.agree') }}</NButton
        ></template
      >
    </p>
  </template>
</template>

<style scoped>
.ahead {
  background: var(--both-wash);
  border-radius: 8px;
  padding: 0.6rem 0.9rem;
  margin: 0.6rem 0;
}
.ahead ul {
  margin: 0 0 0.6rem;
  padding-left: 1.1rem;
}
h3 {
  font-size: 0.95rem;
  margin: 1rem 0 0.4rem;
}
.given {
  margin-top: 0.6rem;
}
</style>
