<script setup lang="ts">
import { NTable } from 'naive-ui/es/table'
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import ItemRow from './ItemRow.vue'
import type { Wish, Wishes } from './wishes'

const props = defineProps<{
  items: Schemas['Item'][]
  chosen: string[]
  rows?: Schemas['Row'][]
  notices?: Schemas['PlanNotice'][]
  categories: string[]
  zone: string
  /** Whether they go into the text of a page. */
  onPage?: boolean
}>()
const wishes = defineModel<Wishes>({ required: true })
const planned = computed(() => new Map((props.rows ?? []).map((row) => [row.item, row])))
const noticed = computed(
  () => new Map((props.notices ?? []).map((notice) => [notice.item, notice])),
)
const byId = computed(() => new Map(props.items.map((item) => [item.id, item])))
const mine = computed(() => props.chosen.flatMap((id) => byId.value.get(id) ?? []))
function say(item: Schemas['Item'], name: keyof Wish, value: string | null) {
  const own = { ...wishes.value[item.id], [name]: value ?? '' }
  wishes.value = { ...wishes.value, [item.id]: own }
}
</script>

<template>
  <div class="scroll" tabindex="0" role="region" :aria-label="$t('deploy.item_table.item_by_item')">
    <NTable :bordered="false" class="plain stack">
      <thead>
        <tr>
          <th scope="col">{{ $t('deploy.item_table.title_in_the_shell') }}</th>
          <th scope="col">{{ $t('deploy.item_table.becomes') }}</th>
          <th scope="col">{{ $t('deploy.item_table.points') }}</th>
          <th scope="col">{{ $t('deploy.item_table.due') }}</th>
          <th scope="col">{{ $t('deploy.item_table.category') }}</th>
          <th scope="col">{{ $t('deploy.item_table.learners') }}</th>
        </tr>
      </thead>
      <tbody>
        <ItemRow
          v-for="item in mine"
          :key="item.id"
          :item="item"
          :wish="wishes[item.id]"
          :target="planned.get(item.id)?.target"
          :notice="noticed.get(item.id)"
          :categories="categories"
          :zone="zone"
          :on-page="onPage"
          @say="(name, value) => say(item, name, value)"
        />
      </tbody>
    </NTable>
  </div>
</template>

<style scoped>
.scroll {
  max-height: 24rem;
  overflow: auto;
  margin-top: 0.5rem;
}
@media (max-width: 640px) {
  .scroll {
    max-height: none;
  }
}
</style>
