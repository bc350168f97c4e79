<script setup lang="ts">
import type { Schemas } from '@/api/client'
import { becomesKey, type Row, isInShell } from '@/logic/catalogue'
import { inZone } from '@/logic/dates'
import { t } from '@/words'

/** A unit or an item in the catalogue's tree: whether it is chosen, and whether it is in the shell. */
const props = defineProps<{ row: Row; mark: string; zone: string }>()
const facts = (item: Schemas['Item']) =>
  item.kind === 'graded'
    ? [
        item.points ? t('count.points', Number(item.points)) : t('catalogue.no_points'),
        inZone(item.due_at, props.zone) || t('catalogue.no_date'),
      ].join(', ')
    : t(`kind.${item.kind}`)
const standing = (item: Schemas['Item']) =>
  isInShell(item)
    ? t('catalogue.is_placed')
    : item.placed === 'failed'
      ? t('catalogue.failed')
      : becomesKey(item) === 'undated'
        ? t('catalogue.decide')
        : ''
</script>

<template>
  <span class="line">
    <span class="mark" aria-hidden="true">{{ mark }}</span>
    <template v-if="row.kind === 'head'">{{ row.title }}</template>
    <template v-else>
      <span class="title" :class="{ soft: isInShell(row.item) }" :title="row.item.shown_title">{{
        row.item.shown_title
      }}</span>
      <span class="facts soft">{{ facts(row.item) }}</span>
      <span class="where" :class="row.item.placed">{{ standing(row.item) }}</span>
    </template>
  </span>
</template>

<style scoped>
.where {
  font-size: 0.8rem;
  flex: none;
  min-width: 3.6rem;
  text-align: right;
}
.where.placed {
  color: var(--both);
  font-weight: 600;
}
.where.failed {
  color: var(--alarm);
  font-weight: 600;
}
</style>
