<script setup lang="ts">
import { useMutation } from '@tanstack/vue-query'
import { NButton } from 'naive-ui/es/button'
import { computed, onMounted, ref } from 'vue'
import { answered, api, type Schemas } from '@/api/client'
import { many } from '@/logic/counting'
import LoadingNote from '@/parts/LoadingNote.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import { planUndo, undoOperation } from '@/steps/operations/operations'

const props = defineProps<{ pairing: string; made: string }>()
const emit = defineEmits<{ close: []; begun: [job: string] }>()
const last = ref('')
const look = useMutation({
  mutationFn: async () => {
    const rows = (await answered(
      api.GET('/api/v1/pairings/{pairing_pk}/imports/{id}/deliveries', {
        params: { path: { pairing_pk: props.pairing, id: props.made } },
      }),
    )) as unknown as Schemas['Delivery'][]
    const gone = rows.filter((row) => row.job.state === 'done').map((row) => row.undoes)
    last.value = rows.find((row) => !row.undoes && !gone.includes(row.id))?.job.id ?? ''
    return last.value ? planUndo(last.value) : []
  },
})
const undo = useMutation({
  mutationFn: () => undoOperation(last.value),
  onSuccess: (begun) => {
    emit('begun', begun.id)
    emit('close')
  },
})
onMounted(() => look.mutate())
const going = computed(() => look.data.value?.filter((each) => !each.why) ?? [])
const staying = computed(() => look.data.value?.filter((each) => each.why) ?? [])
</script>

<template>
  <section class="sheet" aria-labelledby="undo">
    <div class="row">
      <h2 id="undo">Take out again</h2>
      <NButton class="push" size="small" @click="$emit('close')">Close</NButton>
    </div>
    <LoadingNote v-if="look.isPending.value" what="what stands in the shell" />
    <ProblemNote :error="look.error.value ?? undo.error.value" />
    <template v-if="look.data.value">
      <p>
        {{ going.length }} of {{ many(look.data.value.length, 'entry', 'entries') }} that came in
        last will be taken out of the shell<template v-if="staying.length"
          >; {{ staying.length }} stay</template
        >.
      </p>
      <ul v-if="staying.length">
        <li v-for="(each, index) in staying.slice(0, 8)" :key="index">
          {{ each.title }} <span class="soft">stays: {{ each.why }}</span>
        </li>
      </ul>
      <NButton
        type="error"
        ghost
        :disabled="!going.length"
        :loading="undo.isPending.value"
        @click="undo.mutate()"
        >Take {{ going.length }} out</NButton
      >
    </template>
  </section>
</template>

<style scoped>
section {
  margin-bottom: 1rem;
}
</style>
