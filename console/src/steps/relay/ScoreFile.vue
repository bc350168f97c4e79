<script setup lang="ts">
import { NButton } from 'naive-ui/es/button'
import FileField from '@/parts/FileField.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import LayoutField from '@/steps/reconcile/files/LayoutField.vue'
import { useScoreFile } from './useScoreFile'

/** A file of scores: looked into first, then taken as if the publisher had reported them. */
const props = defineProps<{ pairing: string }>()
const { file, layout, seen, taken, look, take, choose } = useScoreFile(() => props.pairing)
</script>

<template>
  <form @submit.prevent="seen ? take.mutate() : look.mutate()">
    <FileField
      :label="$t('relay.sources.or_a_file_of_scores')"
      accept=".csv,.txt,.tsv,.zip"
      @chosen="choose"
    />
    <LayoutField v-model="layout" :file="file" :problem="look.error.value" />
    <ProblemNote :error="look.error.value ?? take.error.value" />
    <p v-if="seen">
      {{
        $t('relay.sources.of_learners_are_known_here', {
          words: seen.words,
          matched: seen.matched,
          learners: seen.learners,
        })
      }}
    </p>
    <p v-if="taken" role="status">{{ $t('relay.sources.taken', { taken }) }}</p>
    <NButton
      v-if="file"
      size="small"
      attr-type="submit"
      :type="seen ? 'primary' : 'default'"
      :disabled="seen?.changed === 0"
      :loading="look.isPending.value || take.isPending.value"
      >{{
        seen
          ? $t('relay.sources.take_these', { changed: seen.changed })
          : $t('relay.sources.look_into_it_first')
      }}</NButton
    >
  </form>
</template>

<style scoped>
form {
  display: grid;
  gap: 0.5rem;
  justify-items: start;
}
form p {
  margin: 0;
}
</style>
