<script setup lang="ts">
import { NButton } from 'naive-ui/es/button'
import { computed } from 'vue'
import type { Schemas } from '@/api/client'

const props = defineProps<{ rows: Schemas['Reversal'][]; pending: boolean }>()
defineEmits<{ undo: [] }>()
const staying = computed(() => props.rows.filter((row) => row.why))
const going = computed(() => props.rows.length - staying.value.length)
</script>

<template>
  <div class="undo">
    <p>
      {{ $t('operations.undo_preview.of_will_be_undone', { going, rows: rows.length })
      }}<template v-if="staying.length">{{
        $t('operations.undo_preview.stay', {
          staying: staying.length,
          why: staying
            .slice(0, 4)
            .map((row) => `${row.title} (${row.why})`)
            .join(', '),
        })
      }}</template
      >.
    </p>
    <NButton
      size="small"
      type="error"
      ghost
      :disabled="rows.length > 0 && !going"
      :loading="pending"
      @click="$emit('undo')"
      >{{ $t('operations.undo_preview.undo') }}</NButton
    >
  </div>
</template>

<style scoped>
.undo {
  border-left: 3px solid var(--alarm);
  padding-left: 0.7rem;
  margin-top: 0.5rem;
}
p {
  margin: 0 0 0.4rem;
}
</style>
