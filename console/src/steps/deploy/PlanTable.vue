<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import { inZone } from '@/logic/dates'

const props = defineProps<{ plan: Schemas['Plan']; named: boolean }>()
const rows = computed(() =>
  props.plan.rows.filter((row) => row.action === 'make' || row.action === 'change'),
)
const shown = (target: Schemas['Target']) =>
  !target.visible
    ? 'hidden'
    : target.shown_from
      ? `from ${inZone(target.shown_from, props.plan.zone)}`
      : 'shown'
</script>

<template>
  <section :aria-label="`Plan for ${plan.shell}`">
    <h3 v-if="named">
      {{ plan.shell
      }}<span v-if="plan.shift_days" class="soft">
        · dates shifted by {{ plan.shift_days }} days</span
      >
    </h3>
    <p v-if="plan.folders.length" class="soft">
      New folders: {{ plan.folders.map((each) => each.title).join(', ') }}.
    </p>
    <p v-if="plan.categories.length" class="soft">
      New categories: {{ plan.categories.join(', ') }}.
    </p>
    <template v-if="plan.page_html">
      <p>The page's text will be:</p>
      <iframe
        sandbox=""
        class="page"
        :srcdoc="`<meta charset=utf-8><style>body{font:15px/1.5 sans-serif;color:#1d2130;background:#fff;margin:12px}a{color:#0f6fa8;text-decoration:underline;font-weight:600}</style>${plan.page_html}`"
        title="The page's text with its links"
      ></iframe>
    </template>
    <div class="scroll" tabindex="0" role="region" :aria-label="`Items for ${plan.shell}`">
      <table class="plain stack">
        <thead>
          <tr>
            <th scope="col">What</th>
            <th scope="col">Title</th>
            <th scope="col">Folder</th>
            <th scope="col" class="number">Points</th>
            <th scope="col">Due</th>
            <th scope="col">Category</th>
            <th scope="col">Learners</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="row in rows" :key="row.item">
            <td data-label="What">
              <span class="does" :class="row.action">{{ row.action }}</span>
            </td>
            <td class="wide">
              {{ row.target.title }}
              <div v-for="each in row.differences" :key="each.field" class="soft">
                {{ each.field.replaceAll('_', ' ') }}: {{ each.before || 'none' }} →
                {{ each.after || 'none' }}
              </div>
            </td>
            <td data-label="Folder">{{ row.folder_title || 'the top' }}</td>
            <td data-label="Points" class="number">{{ row.target.points ?? '–' }}</td>
            <td data-label="Due">{{ inZone(row.target.due_at, plan.zone) || '–' }}</td>
            <td data-label="Category">{{ row.target.category || '–' }}</td>
            <td data-label="Learners">{{ shown(row.target) }}</td>
          </tr>
        </tbody>
      </table>
    </div>
  </section>
</template>

<style scoped>
.page {
  width: 100%;
  height: 12rem;
  border: 1px solid var(--rule);
  border-radius: 8px;
  background: #fff;
  margin-bottom: 0.6rem;
}
h3 {
  font-size: 0.98rem;
  margin: 0.4rem 0 0.2rem;
}
.scroll {
  max-height: 17rem;
  overflow: auto;
}
.does {
  border-radius: 999px;
  padding: 0 0.5rem;
  font-size: 0.84rem;
  font-weight: 600;
  background: var(--right-wash);
  color: var(--right);
}
.does.change {
  background: var(--both-wash);
  color: var(--both);
}
td {
  font-size: 0.92rem;
}
@media (max-width: 640px) {
  .scroll {
    max-height: none;
  }
}
</style>
