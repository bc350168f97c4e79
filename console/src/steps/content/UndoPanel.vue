<script setup lang="ts">
import { useMutation } from '@tanstack/vue-query'
import { NButton } from 'naive-ui/es/button'
import { computed, onMounted } from 'vue'
import { answered, api, type Schemas } from '@/api/client'
import { many } from '@/logic/counting'
import LoadingNote from '@/parts/LoadingNote.vue'
import ProblemNote from '@/parts/ProblemNote.vue'

const props = defineProps<{ pairing: string; made: string }>()
const emit = defineEmits<{ close: []; begun: [job: string] }>()
const path = computed(() => ({ pairing_pk: props.pairing, id: props.made }))
const look = useMutation({
  mutationFn: async () =>
    (await answered(
      api.POST('/api/v1/pairings/{pairing_pk}/imports/{id}/undo', {
        params: { path: path.value },
        body: { dry_run: true },
      }),
    )) as unknown as Schemas['Removal'][],
})
const undo = useMutation({
  mutationFn: async () =>
    (await answered(
      api.POST('/api/v1/pairings/{pairing_pk}/imports/{id}/undo', {
        params: { path: path.value },
        body: { dry_run: false },
      }),
    )) as unknown as Schemas['Delivery'],
  onSuccess: (begun) => {
    emit('begun', begun.job.id)
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
        <li v-for="each in staying.slice(0, 8)" :key="each.id">
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
