<script setup lang="ts">
import type { Schemas } from '@/api/client'
import { becomes } from '@/logic/catalogue'
import { inZone } from '@/logic/dates'

defineProps<{ item: Schemas['Item']; zone: string }>()
</script>

<template>
  <aside aria-label="The item">
    <strong>{{ item.shown_title }}</strong>
    <p class="soft">{{ [item.unit, item.kind, item.category].filter(Boolean).join(' · ') }}</p>
    <p>
      <template v-if="item.kind === 'graded'"
        >{{ item.points ?? 'No' }} points, due {{ inZone(item.due_at, zone) || 'at no date' }}.
      </template>
      <template v-if="item.placed === 'placed'"
        >Stands in {{ item.folder ? `“${item.folder}”` : 'the top of the outline'
        }}{{ item.column ? ', with a column' : ', without a column' }}.</template
      >
      <template v-else>Not placed; it would become {{ becomes(item) }}.</template>
    </p>
    <p>
      <a :href="`/lti/platform/items/${item.id}`" target="_blank" rel="noopener"
        >Open it at the publisher</a
      >
      <span class="soft"> as yourself, in a new window; nothing is placed</span>
    </p>
  </aside>
</template>

<style scoped>
aside {
  border-top: 1px dashed var(--rule);
  margin-top: 0.6rem;
  padding-top: 0.5rem;
  font-size: 0.92rem;
  min-height: 5.2rem;
}
p {
  margin: 0.1rem 0;
}
</style>
