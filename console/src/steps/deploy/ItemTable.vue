<script setup lang="ts">
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

function say(item: Schemas['Item'], name: keyof Wish, event: Event) {
  wishes.value = {
    ...wishes.value,
    [item.id]: {
      ...wishes.value[item.id],
      [name]: (event.target as HTMLInputElement | HTMLSelectElement).value,
    },
  }
}
</script>

<template>
  <div class="scroll" tabindex="0" role="region" aria-label="Item by item">
    <table class="plain stack">
      <thead>
        <tr>
          <th scope="col">Title in the shell</th>
          <th scope="col">Becomes</th>
          <th scope="col">Points</th>
          <th scope="col">Due</th>
          <th scope="col">Category</th>
          <th scope="col">Learners</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="item in mine" :key="item.id">
          <td class="wide">
            <DraftInput
              class="title"
              :value="wishes[item.id]?.title"
              :placeholder="target(item)?.title || item.shown_title"
              :aria-label="`Title of ${item.shown_title}`"
              maxlength="2000"
              @change="say(item, 'title', $event)"
            />
            <DraftInput
              v-if="onPage"
              class="title"
              :value="wishes[item.id]?.words"
              placeholder="Words of the page that become the link"
              :aria-label="`Words of the page for ${item.shown_title}`"
              maxlength="500"
              @change="say(item, 'words', $event)"
            />
            <p v-if="noticed.has(item.id)" class="notice" :class="noticed.get(item.id)!.level">
              {{ noticed.get(item.id)!.message }}
            </p>
          </td>
          <td data-label="Becomes">
            <select
              v-if="graded(item)"
              :value="wishes[item.id]?.becomes ?? ''"
              :aria-label="`What ${item.shown_title} becomes`"
              @change="say(item, 'becomes', $event)"
            >
              <option value="">as for all</option>
              <option value="column">a link with a column</option>
              <option value="link">a link only</option>
            </select>
            <span v-else class="soft">a link</span>
          </td>
          <td data-label="Points">
            <span v-if="item.points || !graded(item)">{{ item.points ?? '–' }}</span><DraftInput
              v-else
              class="points"
              type="number"
              min="0"
              step="any"
              :value="wishes[item.id]?.points"
              :aria-label="`Points of ${item.shown_title}`"
              @change="say(item, 'points', $event)"
            />
          </td>
          <td data-label="Due">
            <span v-if="item.due_at || !graded(item)">{{
              inZone(target(item)?.due_at || item.due_at, zone) || '–'
            }}</span><DraftInput
              v-else
              type="datetime-local"
              :value="wishes[item.id]?.due_at"
              :aria-label="`Due date of ${item.shown_title}`"
              @change="say(item, 'due_at', $event)"
            />
          </td>
          <td data-label="Category">
            <DraftInput
              v-if="graded(item)"
              class="category"
              list="item-categories"
              :value="wishes[item.id]?.category"
              :placeholder="target(item)?.category || 'as for all'"
              :aria-label="`Category of ${item.shown_title}`"
              maxlength="200"
              @change="say(item, 'category', $event)"
            /><span v-else>–</span>
          </td>
          <td data-label="Learners">
            <select
              :value="wishes[item.id]?.show ?? ''"
              :aria-label="`Whether learners see ${item.shown_title}`"
              @change="say(item, 'show', $event)"
            >
              <option value="">as for all</option>
              <option value="shown">see it</option>
              <option value="hidden">do not see it</option>
            </select>
          </td>
        </tr>
      </tbody>
    </table>
    <datalist id="item-categories">
      <option value="publisher">the publisher's</option>
      <option value="none">none</option>
      <option v-for="each in categories" :key="each" :value="each" />
    </datalist>
  </div>
</template>

<style scoped>
.scroll {
  max-height: 24rem;
  overflow: auto;
  margin-top: 0.5rem;
}
select,
input {
  font: inherit;
  font-size: 0.92rem;
  color: inherit;
  background: var(--paper);
  border: 1px solid var(--rule);
  border-radius: 6px;
  padding: 0.15rem 0.4rem;
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
