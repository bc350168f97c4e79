<script setup lang="ts">
import { NButton } from 'naive-ui/es/button'
import LoadingNote from '@/parts/LoadingNote.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import { useUndoing } from './useUndoing'

const props = defineProps<{ pairing: string; made: string }>()
const emit = defineEmits<{ close: []; begun: [job: string] }>()
const { look, undo, going, shown, staying } = useUndoing(props, (job) => {
  emit('begun', job)
  emit('close')
})
</script>

<template>
  <section class="sheet" aria-labelledby="undo">
    <div class="row">
      <h2 id="undo">{{ $t('content.undo.take_out_again') }}</h2>
      <NButton class="push" size="small" @click="$emit('close')">{{
        $t('content.undo.close')
      }}</NButton>
    </div>
    <LoadingNote v-if="look.isPending.value" :what="$t('content.undo.what_stands_in_the_shell')" />
    <ProblemNote :error="look.error.value ?? undo.error.value" />
    <template v-if="look.data.value">
      <p>
        {{
          $t('content.undo.of_that_came_in_last', {
            going: going.length - shown,
            entries: $t('count.entries', look.data.value.length),
          })
        }}<template v-if="shown">{{ $t('content.undo.shown', { shown }) }}</template
        ><template v-if="staying.length">{{
          $t('content.undo.stay', { staying: staying.length })
        }}</template
        >.
      </p>
      <ul v-if="staying.length">
        <li v-for="(each, index) in staying.slice(0, 8)" :key="index">
          {{ each.title }}
          <span class="soft">{{ $t('content.undo.stays', { why: each.why }) }}</span>
        </li>
      </ul>
      <NButton
        type="error"
        ghost
        :disabled="!going.length"
        :loading="undo.isPending.value"
        @click="undo.mutate()"
        >{{
          going.length === shown
            ? $t('content.undo.show', { shown })
            : $t('content.undo.take_out', { going: going.length - shown })
        }}</NButton
      >
    </template>
  </section>
</template>

<style scoped>
section {
  margin-bottom: 1rem;
}
</style>
