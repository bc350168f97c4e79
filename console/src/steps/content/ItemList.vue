<script setup lang="ts">
import type { Schemas } from '@/api/client'
import { inZone } from '@/logic/dates'
import ListTable from '@/parts/ListTable.vue'
import type { Column } from '@/parts/listTable'
import { t } from '@/words'

const props = defineProps<{ items: Schemas['Item'][]; zone: string }>()
type Item = Schemas['Item']
const placedWords = (item: Item) =>
  item.placed === 'placed'
    ? (item.folder || t('content.content.at_the_top')) +
      (item.column ? t('content.content.with_a_column') : '')
    : item.placed === 'failed'
      ? t('content.content.failed')
      : item.placed === 'planned'
        ? t('content.content.under_way')
        : item.placed === 'written'
          ? t('content.content.in_a_written_file_not')
          : '–'
const columns: Column<Item>[] = [
  {
    key: 'item',
    title: t('content.content.item'),
    by: (row) => row.shown_title,
    heading: true,
    minWidth: 240,
  },
  { key: 'unit', title: t('catalogue.unit'), text: (row) => row.unit, by: (row) => row.unit },
  {
    key: 'kind',
    title: t('content.content.kind'),
    text: (row) => t(`kind.${row.kind}`),
    width: 100,
  },
  {
    key: 'points',
    title: t('content.content.points'),
    text: (row) => row.points ?? '–',
    by: (row) => (row.points === null ? null : Number(row.points)),
    number: true,
    width: 90,
    skipNarrow: (row) => !row.points,
  },
  {
    key: 'due',
    title: t('content.content.due'),
    text: (row) =>
      inZone(row.due_at, props.zone) ||
      (row.kind === 'graded' ? t('content.content.no_date') : '–'),
    by: (row) => row.due_at,
    skipNarrow: (row) => !row.due_at && row.kind !== 'graded',
  },
  {
    key: 'placed',
    title: t('content.content.in_the_shell'),
    by: (row) => placedWords(row),
    skipNarrow: (row) => row.placed === 'no',
    minWidth: 200,
  },
]
</script>

<template>
  <ListTable
    class="items"
    :label="$t('content.content.items_of_the_homework_course')"
    :columns="columns"
    :rows="items"
    :row-key="(row) => row.id"
  >
    <template #cell-item="{ row }"
      >{{ row.shown_title
      }}<span v-if="row.audience === 'instructor'" class="soft">
        {{ $t('content.content.for_teachers') }}</span
      ></template
    >
    <template #cell-placed="{ row }"
      ><span :class="{ 'right-ink': row.placed === 'placed', failed: row.placed === 'failed' }">{{
        placedWords(row)
      }}</span></template
    >
  </ListTable>
</template>

<style scoped>
.failed {
  color: var(--alarm);
  font-weight: 600;
}
</style>
