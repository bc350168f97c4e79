<script setup lang="ts">
import type { Schemas } from '@/api/client'
import { inZone } from '@/logic/dates'
import { kindName } from '@/logic/entries'

/** What an entry of a package is, and what is wrong with it. */
defineProps<{ entry: Schemas['Entry']; zone: string }>()
</script>

<template>
  <p class="soft">
    {{ kindName(entry.kind) }}<template v-if="entry.unit">, {{ entry.unit }}</template
    ><template v-if="entry.audience === 'instructor'">{{
      $t('content.entry_preview.for_teachers_it_comes_in')
    }}</template
    ><template v-if="entry.points">{{
      $t('content.entry_preview.points', { points: entry.points })
    }}</template
    ><template v-if="entry.due_at">{{
      $t('content.entry_preview.due', { due_at: inZone(entry.due_at, zone) })
    }}</template>
  </p>
  <p v-if="entry.trouble" class="trouble">
    <strong>{{ entry.trouble_message }}</strong> {{ entry.trouble_remedy }}
  </p>
  <p v-else-if="entry.message" class="soft">{{ entry.message }}</p>
</template>

<style scoped>
.trouble {
  background: var(--alarm-wash);
  border-radius: 8px;
  padding: 0.5rem 0.8rem;
}
</style>
