<script setup lang="ts">
import FileField from '@/parts/FileField.vue'
import MoreBelow from '@/parts/MoreBelow.vue'
import { NButton } from 'naive-ui/es/button'
import ProblemNote from '@/parts/ProblemNote.vue'
import LayoutField from './files/LayoutField.vue'
import { useGivenGradebook } from './useGivenGradebook'

/** The gradebook as a file, where the platform's cannot be read or an older export is to be looked at. */
const props = defineProps<{ pairing: string }>()
const emit = defineEmits<{ begun: [job: string] }>()
const { file, layout, compare } = useGivenGradebook(
  () => props.pairing,
  (job) => emit('begun', job),
)
</script>

<template>
  <MoreBelow :title="$t('reconcile.given_gradebook.compare_with_an_exported_gradebook')">
    <p class="soft">
      {{ $t('reconcile.given_gradebook.what_the_publisher_has_is') }}
    </p>
    <form @submit.prevent="compare.mutate()">
      <FileField
        :label="$t('reconcile.given_gradebook.the_gradebooks_file')"
        accept=".csv,.txt,.tsv,.zip"
        @chosen="file = $event"
      />
      <LayoutField v-model="layout" :file="file" :problem="compare.error.value" />
      <ProblemNote :error="compare.error.value" />
      <NButton
        size="small"
        attr-type="submit"
        :disabled="!file"
        :loading="compare.isPending.value"
        >{{ $t('reconcile.given_gradebook.compare_with_this_file') }}</NButton
      >
    </form>
  </MoreBelow>
</template>

<style scoped>
summary {
  cursor: pointer;
  color: var(--both);
}
form {
  display: grid;
  gap: 0.6rem;
  justify-items: start;
}
</style>
