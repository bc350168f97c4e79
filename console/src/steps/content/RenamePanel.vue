<script setup lang="ts">
import { NButton } from 'naive-ui/es/button'
import { NInput } from 'naive-ui/es/input'
import ProblemNote from '@/parts/ProblemNote.vue'
import { useRenaming } from './useRenaming'

const props = defineProps<{ pairing: string; made: string; chosen: string[] }>()
const emit = defineEmits<{ close: [] }>()
const { pattern, plan, error, rename } = useRenaming(props, () => emit('close'))
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
