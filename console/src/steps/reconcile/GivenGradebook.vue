<script setup lang="ts">
import { useMutation } from '@tanstack/vue-query'
import { NButton } from 'naive-ui/es/button'
import { ref } from 'vue'
import { answered, api } from '@/api/client'
import ProblemNote from '@/parts/ProblemNote.vue'
import LayoutField from './files/LayoutField.vue'
import { asForm } from './files/sending'

/** The gradebook as a file, where the platform's cannot be read or an older export is to be looked at. */
const props = defineProps<{ pairing: string }>()
const emit = defineEmits<{ begun: [job: string] }>()
const file = ref<File>()
const layout = ref('')
const compare = useMutation({
  mutationFn: () =>
    answered(
      api.POST('/api/v1/pairings/{pairing_pk}/comparisons', {
        params: { path: { pairing_pk: props.pairing } },
        ...asForm({ gradebook: file.value, layout: layout.value }),
      }),
    ),
  onSuccess: (made) => emit('begun', made.job.id),
})
const choose = (event: Event) => (file.value = (event.target as HTMLInputElement).files?.[0])
</script>

<template>
  <details>
    <summary>Compare with an exported gradebook instead</summary>
    <p class="soft">
      What the publisher has is read now; the gradebook is taken from the file. Nothing is written
      anywhere.
    </p>
    <form @submit.prevent="compare.mutate()">
      <label
        >The gradebook's file <input type="file" accept=".csv,.txt,.tsv,.zip" @change="choose"
      /></label>
      <LayoutField v-model="layout" :file="file" :problem="compare.error.value" />
      <ProblemNote :error="compare.error.value" />
      <NButton size="small" attr-type="submit" :disabled="!file" :loading="compare.isPending.value"
        >Compare with this file</NButton
      >
    </form>
  </details>
</template>

<style scoped>
details {
  margin-top: 1rem;
}
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
