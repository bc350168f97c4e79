<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { NButton } from 'naive-ui/es/button'
import { computed, ref } from 'vue'
import { answered, api, type Schemas } from '@/api/client'
import ProblemNote from '@/parts/ProblemNote.vue'
import ConsentPanel from './ConsentPanel.vue'
import { consentQuery } from './queries'

type State = 'live' | 'paused' | 'ended'
const props = defineProps<{ pairing: Schemas['Pairing'] }>()
const client = useQueryClient()
const target = ref<State>()
const path = computed(() => ({ id: props.pairing.id }))
const next = computed<[State, string][]>(() => {
  if (props.pairing.state === 'live')
    return [
      ['paused', 'Pause'],
      ['ended', 'End'],
    ]
  if (props.pairing.state === 'paused')
    return [
      ['live', 'Resume'],
      ['ended', 'End'],
    ]
  if (props.pairing.state === 'ended') return [['paused', 'Take it up again']]
  return [['ended', 'End']]
})
const foresee = useMutation({
  mutationFn: (state: State) =>
    answered(
      api.GET('/api/v1/pairings/{id}/consequences', {
        params: { path: path.value, query: { state } },
      }),
    ),
  onSuccess: (seen) => (target.value = seen.state as State),
})
const change = useMutation({
  mutationFn: (state: State) =>
    answered(api.PATCH('/api/v1/pairings/{id}', { params: { path: path.value }, body: { state } })),
  onSuccess: () => {
    target.value = undefined
    client.invalidateQueries({ queryKey: ['pairing', props.pairing.id] })
    client.invalidateQueries({ queryKey: ['shells'] })
  },
})
const shell = computed(() => props.pairing.shell.id)
const { data: consent } = useQuery(computed(() => consentQuery(shell.value)))
const consentAgain = () => {
  client.invalidateQueries({ queryKey: ['shell', shell.value] })
  client.invalidateQueries({ queryKey: ['pairing', props.pairing.id] })
}
const agree = useMutation({
  mutationFn: () =>
    answered(api.POST('/api/v1/shells/{id}/consent', { params: { path: { id: shell.value } } })),
  onSuccess: consentAgain,
})
const withdraw = useMutation({
  mutationFn: () =>
    answered(api.DELETE('/api/v1/shells/{id}/consent', { params: { path: { id: shell.value } } })),
  onSuccess: consentAgain,
})
</script>

<template>
  <p>
    The pairing is <strong>{{ pairing.state }}</strong>. Look first, then decide; nothing happens by
    the first press.
  </p>
  <div class="row">
    <NButton
      v-for="[state, words] in next"
      :key="state"
      size="small"
      :loading="foresee.isPending.value && foresee.variables.value === state"
      @click="foresee.mutate(state)"
      >{{ words }} …</NButton
    >
  </div>
  <div v-if="target" class="ahead" role="alert">
    <ul>
      <li v-for="sentence in foresee.data.value?.consequences" :key="sentence">{{ sentence }}</li>
      <li v-if="!foresee.data.value?.consequences.length">
        It is taken up again, paused; resume it to send scores.
      </li>
    </ul>
    <div class="row">
      <NButton
        size="small"
        type="primary"
        :loading="change.isPending.value"
        @click="change.mutate(target)"
        >Do it</NButton
      ><NButton size="small" @click="target = undefined">Leave it as it is</NButton>
    </div>
  </div>
  <ProblemNote
    :error="foresee.error.value ?? change.error.value ?? agree.error.value ?? withdraw.error.value"
  />
  <template v-if="consent">
    <h3>The agreement</h3>
    <ConsentPanel :shell="shell" />
    <p class="row stand">
      <template v-if="consent.agreed"
        ><span>{{ consent.by }} agreed on {{ consent.at?.slice(0, 10) }}.</span
        ><NButton size="small" :loading="withdraw.isPending.value" @click="withdraw.mutate()"
          >Withdraw{{ pairing.state === 'live' ? ', and pause' : '' }}</NButton
        ></template
      >
      <template v-else
        ><strong>Nobody has agreed: nothing is read or written.</strong
        ><NButton
          size="small"
          type="primary"
          :loading="agree.isPending.value"
          @click="agree.mutate()"
          >I agree</NButton
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
.stand {
  margin-top: 0.6rem;
}
</style>
