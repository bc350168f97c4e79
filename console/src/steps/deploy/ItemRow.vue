<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import { inZone } from '@/logic/dates'
import ChooseOne from '@/parts/ChooseOne.vue'
import DraftInput from '@/parts/DraftInput.vue'
import WhenField from '@/parts/WhenField.vue'
import { t } from '@/words'
import type { Wish } from './wishes'

/** One item as a row: what it is called and becomes in the shell, other than what goes for all. */
const props = defineProps<{
  item: Schemas['Item']
  wish?: Wish
  target?: Schemas['Row']['target']
  notice?: Schemas['PlanNotice']
  categories: string[]
  zone: string
  onPage?: boolean
}>()
const emit = defineEmits<{ say: [name: keyof Wish, value: string | null] }>()
const graded = computed(() => ['graded', 'practice'].includes(props.item.kind))
const named = computed(() => [
  { value: 'publisher', label: t('deploy.item_table.the_publishers') },
  { value: 'none', label: t('deploy.item_table.none') },
  ...props.categories.map((each) => ({ value: each, label: each })),
])
</script>

<template>
  <tr>
    <td class="wide">
      <DraftInput
        class="title"
        :value="wish?.title"
        :placeholder="target?.title || item.shown_title"
        :label="$t('deploy.item_table.title_of', { shown_title: item.shown_title })"
        :maxlength="2000"
        @change="emit('say', 'title', $event)"
      />
      <DraftInput
        v-if="onPage"
        class="title"
        :value="wish?.words"
        :placeholder="$t('deploy.item_table.words_of_the_page_that')"
        :label="$t('deploy.item_table.words_of_the_page_for', { shown_title: item.shown_title })"
        :maxlength="500"
        @change="emit('say', 'words', $event)"
      />
      <p v-if="notice" class="notice" :class="notice.level">
        {{ notice.message }}
      </p>
    </td>
    <td :data-label="$t('deploy.item_table.becomes')">
      <ChooseOne
        :value="wish?.becomes ?? ''"
        @chosen="emit('say', 'becomes', $event)"
        :label="$t('deploy.item_table.what_becomes', { shown_title: item.shown_title })"
        v-if="graded"
        :options="[
          { value: '', label: $t('deploy.item_table.as_for_all') },
          { value: 'column', label: $t('deploy.item_table.a_link_with_a_column') },
          { value: 'link', label: $t('deploy.item_table.a_link_only') },
        ]"
      />
      <span v-else class="soft">{{ $t('deploy.item_table.a_link') }}</span>
    </td>
    <td :data-label="$t('deploy.item_table.points')">
      <span v-if="item.points || !graded">{{ item.points ?? '–' }}</span><DraftInput
        v-else
        class="points"
        inputmode="decimal"
        :value="wish?.points"
        :label="$t('deploy.item_table.points_of', { shown_title: item.shown_title })"
        @change="emit('say', 'points', $event)"
      />
    </td>
    <td :data-label="$t('deploy.item_table.due')">
      <span v-if="item.due_at || !graded">{{
        inZone(target?.due_at || item.due_at, zone) || '–'
      }}</span>
      <WhenField
        v-else
        clearable
        :value="wish?.due_at || null"
        @update:value="(at) => emit('say', 'due_at', at ?? null)"
        kind="datetime"
        :label="$t('deploy.item_table.due_date_of', { shown_title: item.shown_title })"
      />
    </td>
    <td :data-label="$t('deploy.item_table.category')">
      <ChooseOne
        v-if="graded"
        :value="wish?.category ?? ''"
        filterable
        tag
        clearable
        :placeholder="target?.category || $t('deploy.item_table.as_for_all')"
        :label="$t('deploy.item_table.category_of', { shown_title: item.shown_title })"
        :options="named"
        @chosen="emit('say', 'category', $event)"
      /><span v-else>–</span>
    </td>
    <td :data-label="$t('deploy.item_table.learners')">
      <ChooseOne
        :value="wish?.show ?? ''"
        @chosen="emit('say', 'show', $event)"
        :label="$t('deploy.item_table.whether_learners_see', { shown_title: item.shown_title })"
        :options="[
          { value: '', label: $t('deploy.item_table.as_for_all') },
          { value: 'shown', label: $t('deploy.item_table.see_it') },
          { value: 'hidden', label: $t('deploy.item_table.do_not_see_it') },
        ]"
      />
    </td>
  </tr>
</template>

<style scoped>
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
  .title {
    min-width: 0;
  }
  .category {
    width: min(9rem, 45vw);
  }
}
</style>
