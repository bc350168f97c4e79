<script setup lang="ts">
import WhenField from '@/parts/WhenField.vue'
import { t } from '@/words'
import ChooseOne from '@/parts/ChooseOne.vue'
import { NTable } from 'naive-ui/es/table'
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import { inZone } from '@/logic/dates'
import DraftInput from '@/parts/DraftInput.vue'
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
const target = (item: Schemas['Item']) => planned.value.get(item.id)?.target
const graded = (item: Schemas['Item']) => item.kind === 'graded' || item.kind === 'practice'

const named = computed(() => [
  { value: 'publisher', label: t('deploy.item_table.the_publishers') },
  { value: 'none', label: t('deploy.item_table.none') },
  ...props.categories.map((each) => ({ value: each, label: each })),
])
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
        <tr v-for="item in mine" :key="item.id">
          <td class="wide">
            <DraftInput
              class="title"
              :value="wishes[item.id]?.title"
              :placeholder="target(item)?.title || item.shown_title"
              :label="$t('deploy.item_table.title_of', { shown_title: item.shown_title })"
              :maxlength="2000"
              @change="say(item, 'title', $event)"
            />
            <DraftInput
              v-if="onPage"
              class="title"
              :value="wishes[item.id]?.words"
              :placeholder="$t('deploy.item_table.words_of_the_page_that')"
              :label="
                $t('deploy.item_table.words_of_the_page_for', { shown_title: item.shown_title })
              "
              :maxlength="500"
              @change="say(item, 'words', $event)"
            />
            <p v-if="noticed.has(item.id)" class="notice" :class="noticed.get(item.id)!.level">
              {{ noticed.get(item.id)!.message }}
            </p>
          </td>
          <td :data-label="$t('deploy.item_table.becomes')">
            <ChooseOne
              :value="wishes[item.id]?.becomes ?? ''"
              @chosen="say(item, 'becomes', $event)"
              :label="$t('deploy.item_table.what_becomes', { shown_title: item.shown_title })"
              v-if="graded(item)"
              :options="[
                { value: '', label: $t('deploy.item_table.as_for_all') },
                { value: 'column', label: $t('deploy.item_table.a_link_with_a_column') },
                { value: 'link', label: $t('deploy.item_table.a_link_only') },
              ]"
            />
            <span v-else class="soft">{{ $t('deploy.item_table.a_link') }}</span>
          </td>
          <td :data-label="$t('deploy.item_table.points')">
            <span v-if="item.points || !graded(item)">{{ item.points ?? '–' }}</span><DraftInput
              v-else
              class="points"
              inputmode="decimal"
              :value="wishes[item.id]?.points"
              :label="$t('deploy.item_table.points_of', { shown_title: item.shown_title })"
              @change="say(item, 'points', $event)"
            />
          </td>
          <td :data-label="$t('deploy.item_table.due')">
            <span v-if="item.due_at || !graded(item)">{{
              inZone(target(item)?.due_at || item.due_at, zone) || '–'
            }}</span>
            <WhenField
              v-else
              clearable
              :value="wishes[item.id]?.due_at || null"
              @update:value="(at) => say(item, 'due_at', at ?? null)"
              kind="datetime"
              :label="$t('deploy.item_table.due_date_of', { shown_title: item.shown_title })"
            />
          </td>
          <td :data-label="$t('deploy.item_table.category')">
            <ChooseOne
              v-if="graded(item)"
              :value="wishes[item.id]?.category ?? ''"
              filterable
              tag
              clearable
              :placeholder="target(item)?.category || $t('deploy.item_table.as_for_all')"
              :label="$t('deploy.item_table.category_of', { shown_title: item.shown_title })"
              :options="named"
              @chosen="say(item, 'category', $event)"
            /><span v-else>–</span>
          </td>
          <td :data-label="$t('deploy.item_table.learners')">
            <ChooseOne
              :value="wishes[item.id]?.show ?? ''"
              @chosen="say(item, 'show', $event)"
              :label="
                $t('deploy.item_table.whether_learners_see', { shown_title: item.shown_title })
              "
              :options="[
                { value: '', label: $t('deploy.item_table.as_for_all') },
                { value: 'shown', label: $t('deploy.item_table.see_it') },
                { value: 'hidden', label: $t('deploy.item_table.do_not_see_it') },
              ]"
            />
          </td>
        </tr>
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
.title {
  width: 100%;
  min-width: 14rem;
}
.points {
  width: 5rem;
}
.category {
  width: 9rem;
}
.notice {
  margin: 0.2rem 0 0;
  font-size: 0.85rem;
  font-weight: 400;
  color: var(--left);
}
.notice.error {
  color: var(--alarm);
}
@media (max-width: 640px) {
  .scroll {
    max-height: none;
  }
  .title {
    min-width: 0;
  }
  .category {
    width: min(9rem, 45vw);
  }
}
</style>
