<script setup lang="ts">
import { useMutation, useQueryClient } from '@tanstack/vue-query'
import { NButton } from 'naive-ui/es/button'
import { NInput } from 'naive-ui/es/input'
import { computed, ref } from 'vue'
import { answered, api } from '@/api/client'
import ProblemNote from '@/parts/ProblemNote.vue'
import { usePlan } from '@/parts/usePlan'

const props = defineProps<{ pairing: string; made: string; chosen: string[] }>()
const emit = defineEmits<{ close: [] }>()
const client = useQueryClient()
const pattern = ref('{unit}: {title}')
const body = computed(() => ({ entries: props.chosen, pattern: pattern.value }))
const ask = (wanted: typeof body.value, dry_run: boolean) =>
  answered(
    api.POST('/api/v1/pairings/{pairing_pk}/imports/{import_pk}/entries/rename', {
      params: { path: { pairing_pk: props.pairing, import_pk: props.made } },
      body: { ...wanted, names: {}, dry_run },
    }),
  )
const { plan, error } = usePlan(
  computed(() => (body.value.pattern.trim() && props.chosen.length ? body.value : undefined)),
  (wanted) => ask(wanted, true),
)
const rename = useMutation({
  mutationFn: () => ask(body.value, false),
  onSuccess: () => {
    client.invalidateQueries({ queryKey: ['pairing', props.pairing] })
    emit('close')
  },
})
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
        :disabled="!plan?.length"
        :loading="rename.isPending.value"
        @click="rename.mutate()"
        >{{ $t('content.rename.rename') }}</NButton
      >
    </div>
    <ProblemNote :error="error ?? rename.error.value" />
    <ul v-if="plan">
      <li v-for="row in plan.slice(0, 6)" :key="row.id">
        <span class="soft">{{ row.before }}</span> → {{ row.after }}
      </li>
    </ul>
    <p v-if="(plan?.length ?? 0) > 6" class="soft">
      {{ $t('content.rename.and_more', { look: plan!.length - 6 }) }}
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
