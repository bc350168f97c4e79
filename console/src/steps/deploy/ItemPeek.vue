<script setup lang="ts">
import type { Schemas } from '@/api/client'
import { becomes } from '@/logic/catalogue'
import { inZone } from '@/logic/dates'

defineProps<{ item: Schemas['Item']; zone: string }>()
</script>

<template>
  <aside :aria-label="$t('deploy.item_peek.the_item')">
    <strong>{{ item.shown_title }}</strong>
    <p class="soft">{{ [item.unit, item.kind, item.category].filter(Boolean).join(' · ') }}</p>
    <p>
      <template v-if="item.kind === 'graded'"
        >{{
          $t('deploy.item_peek.points_due', {
            no: item.points ?? $t('deploy.item_peek.no'),
            date: inZone(item.due_at, zone) || $t('deploy.item_peek.at_no_date'),
          })
        }}
      </template>
      <template v-if="item.placed === 'placed'">{{
        $t('deploy.item_peek.stands_in', {
          outline: item.folder ? `“${item.folder}”` : $t('deploy.item_peek.the_top_of_the_outline'),
          column: item.column
            ? $t('deploy.item_peek.with_a_column')
            : $t('deploy.item_peek.without_a_column'),
        })
      }}</template>
      <template v-else>{{
        $t('deploy.item_peek.not_placed_it_would_become', { item: becomes(item) })
      }}</template>
    </p>
    <p>
      <a :href="`/lti/platform/items/${item.id}`" target="_blank" rel="noopener">{{
        $t('deploy.item_peek.open_it_at_the_publisher')
      }}</a>
      <span class="soft"> {{ $t('deploy.item_peek.as_yourself_in_a_new') }}</span>
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
