<script setup lang="ts">
import { useMutation } from '@tanstack/vue-query'
import { NButton } from 'naive-ui/es/button'
import { computed, onMounted, ref } from 'vue'
import { answered, api, type Schemas } from '@/api/client'
import { many } from '@/logic/counting'
import LoadingNote from '@/parts/LoadingNote.vue'
import ProblemNote from '@/parts/ProblemNote.vue'

const props = defineProps<{ pairing: string; placements: string[] }>()
const emit = defineEmits<{ close: []; begun: [rollout: Schemas['WholeRollout']] }>()
const scores = ref<'keep' | 'export' | 'remove'>('keep')
const ask = async (dry: boolean) =>
  (await answered(
    api.POST('/api/v1/pairings/{pairing_pk}/placements/take-back', {
      params: { path: { pairing_pk: props.pairing } },
      body: { placements: props.placements, scores: scores.value, dry_run: dry },
    }),
  )) as unknown
const look = useMutation({ mutationFn: () => ask(true) as Promise<Schemas['TakingBack'][]> })
const go = useMutation({
  mutationFn: () => ask(false) as Promise<Schemas['WholeRollout']>,
  onSuccess: (made) => {
    emit('begun', made)
    emit('close')
  },
})
onMounted(() => look.mutate())
const held = computed(() => look.data.value?.filter((each) => each.scores) ?? [])
</script>

<template>
  <section class="sheet" aria-labelledby="back">
    <div class="row">
      <h2 id="back">Take {{ many(placements.length, 'link') }} back</h2>
      <NButton class="push" size="small" @click="$emit('close')">Close</NButton>
    </div>
    <LoadingNote v-if="look.isPending.value" what="their columns" />
    <ProblemNote :error="look.error.value ?? go.error.value" />
    <template v-if="look.data.value">
      <p>
        The links go out of the shell and the items are free again. Columns without scores go with
        them<template v-if="held.length"
          >; {{ held.length }} hold scores ({{
            held
              .slice(0, 4)
              .map((each) => `${each.title}: ${each.scores}`)
              .join(', ')
          }})</template
        >.
      </p>
      <fieldset v-if="held.length">
        <legend>What becomes of columns with scores?</legend>
        <label
          ><input v-model="scores" type="radio" value="keep" /> keep them in the gradebook</label
        >
        <label
          ><input v-model="scores" type="radio" value="export" /> save the scores as a table here,
          then remove them</label
        >
        <label
          ><input v-model="scores" type="radio" value="remove" /> remove them, scores and all</label
        >
      </fieldset>
      <NButton type="error" ghost :loading="go.isPending.value" @click="go.mutate()"
        >Take {{ placements.length }} back</NButton
      >
    </template>
  </section>
</template>

<style scoped>
section {
  margin-bottom: 1rem;
}
fieldset {
  border: 0;
  padding: 0;
  margin: 0 0 0.6rem;
  display: grid;
  gap: 0.2rem;
}
legend {
  font-weight: 600;
}
input {
  accent-color: var(--both);
}
</style>
