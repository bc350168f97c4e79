<script setup lang="ts">
import { useMutation, useQueryClient } from '@tanstack/vue-query'
import { NButton } from 'naive-ui/es/button'
import { NInput } from 'naive-ui/es/input'
import { computed, ref, watch } from 'vue'
import { answered, api } from '@/api/client'
import ProblemNote from '@/parts/ProblemNote.vue'

const props = defineProps<{ pairing: string; made: string; chosen: string[] }>()
const emit = defineEmits<{ close: [] }>()
const client = useQueryClient()
const pattern = ref('{unit}: {title}')
const body = computed(() => ({ entries: props.chosen, pattern: pattern.value }))
const ask = (dry: boolean) =>
  answered(
    api.POST('/api/v1/pairings/{pairing_pk}/imports/{import_pk}/entries/rename', {
      params: { path: { pairing_pk: props.pairing, import_pk: props.made } },
      body: { ...body.value, names: {}, dry_run: dry },
    }),
  )
const look = useMutation({ mutationFn: () => ask(true) })
const rename = useMutation({
  mutationFn: () => ask(false),
  onSuccess: () => {
    client.invalidateQueries({ queryKey: ['pairing', props.pairing] })
    emit('close')
  },
})
let waiting: ReturnType<typeof setTimeout> | undefined
watch(
  body,
  (now) => {
    clearTimeout(waiting)
    if (now.pattern.trim() && now.entries.length) waiting = setTimeout(() => look.mutate(), 300)
  },
  { immediate: true },
)
</script>

<template>
  <section class="sheet" aria-labelledby="many">
    <div class="row">
      <h2 id="many">{{ $t('content.rename.rename_at_once', { chosen: chosen.length }) }}</h2>
      <NButton class="push" size="small" @click="$emit('close')">{{
        $t('content.rename.close')
      }}</NButton>
    </div>
    <p class="soft">
      {{ $t('content.rename.a_pattern_of_and_what') }}
    </p>
    <div class="row">
      <NInput
        v-model:value="pattern"
        :maxlength="255"
        :input-props="{ 'aria-label': $t('deploy.how.pattern') }"
        style="max-width: 24rem"
      /><NButton
        type="primary"
        :disabled="!look.data.value?.length"
        :loading="rename.isPending.value"
        @click="rename.mutate()"
        >{{ $t('content.rename.rename') }}</NButton
      >
    </div>
    <ProblemNote :error="look.error.value ?? rename.error.value" />
    <ul v-if="look.data.value">
      <li v-for="row in look.data.value.slice(0, 6)" :key="row.id">
        <span class="soft">{{ row.before }}</span> → {{ row.after }}
      </li>
    </ul>
    <p v-if="(look.data.value?.length ?? 0) > 6" class="soft">
      {{ $t('content.rename.and_more', { look: look.data.value!.length - 6 }) }}
    </p>
  </section>
</template>

<style scoped>
section {
  margin-bottom: 1rem;
}
ul {
  list-style: none;
  padding: 0;
  margin: 0.5rem 0 0;
}
</style>
