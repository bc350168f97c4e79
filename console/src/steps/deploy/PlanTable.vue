<script setup lang="ts">
import { NTable } from 'naive-ui/es/table'
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import { inZone } from '@/logic/dates'
import { stateName } from '@/logic/states'
import { t } from '@/words'

const props = defineProps<{ plan: Schemas['Plan']; named: boolean }>()
const rows = computed(() =>
  props.plan.rows.filter((row) => row.action === 'make' || row.action === 'change'),
)
const shown = (target: Schemas['Target']) =>
  !target.visible
    ? t('deploy.plan_table.hidden')
    : target.shown_from
      ? t('deploy.plan_table.from', { plan: inZone(target.shown_from, props.plan.zone) })
      : t('deploy.plan_table.shown')
</script>

<template>
  <section :aria-label="$t('deploy.plan_table.plan_for', { shell: plan.shell })">
    <h3 v-if="named">
      {{ plan.shell
      }}<span v-if="plan.shift_days" class="soft">
        {{ $t('deploy.plan_table.dates_shifted_by_days', { shift_days: plan.shift_days }) }}</span
      >
    </h3>
    <p v-if="plan.folders.length" class="soft">
      {{
        $t('deploy.plan_table.new_folders', {
          title: plan.folders.map((each) => each.title).join(', '),
        })
      }}
    </p>
    <p v-if="plan.categories.length" class="soft">
      {{ $t('deploy.plan_table.new_categories', { categories: plan.categories.join(', ') }) }}
    </p>
    <template v-if="plan.page_html">
      <p>{{ $t('deploy.plan_table.the_pages_text_will_be') }}</p>
      <iframe
        sandbox=""
        class="page"
        :srcdoc="`<meta charset=utf-8><style>body{font:15px/1.5 sans-serif;color:#1d2130;background:#fff;margin:12px}a{color:#0f6fa8;text-decoration:underline;font-weight:600}</style>${plan.page_html}`"
        :title="$t('deploy.plan_table.the_pages_text_with_its')"
      ></iframe>
    </template>
    <div
      class="scroll"
      tabindex="0"
      role="region"
      :aria-label="$t('deploy.plan_table.items_for', { shell: plan.shell })"
    >
      <NTable :bordered="false" class="plain stack">
        <thead>
          <tr>
            <th scope="col">{{ $t('deploy.plan_table.what') }}</th>
            <th scope="col">{{ $t('deploy.plan_table.title') }}</th>
            <th scope="col">{{ $t('deploy.plan_table.folder') }}</th>
            <th scope="col" class="number">{{ $t('deploy.plan_table.points') }}</th>
            <th scope="col">{{ $t('deploy.plan_table.due') }}</th>
            <th scope="col">{{ $t('deploy.plan_table.category') }}</th>
            <th scope="col">{{ $t('deploy.plan_table.learners') }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="row in rows" :key="row.item">
            <td :data-label="$t('deploy.plan_table.what')">
              <span class="does" :class="row.action">{{ stateName('step', row.action) }}</span>
            </td>
            <td class="wide">
              {{ row.target.title }}
              <div v-for="each in row.differences" :key="each.field" class="soft">
                {{ stateName('field', each.field) }}:
                {{ each.before || $t('deploy.plan_table.none') }} →
                {{ each.after || $t('deploy.plan_table.none') }}
              </div>
            </td>
            <td :data-label="$t('deploy.plan_table.folder')">
              {{ row.folder_title || $t('deploy.plan_table.the_top') }}
            </td>
            <td :data-label="$t('deploy.plan_table.points')" class="number">
              {{ row.target.points ?? '–' }}
            </td>
            <td :data-label="$t('deploy.plan_table.due')">
              {{ inZone(row.target.due_at, plan.zone) || '–' }}
            </td>
            <td :data-label="$t('deploy.plan_table.category')">{{ row.target.category || '–' }}</td>
            <td :data-label="$t('deploy.plan_table.learners')">{{ shown(row.target) }}</td>
          </tr>
        </tbody>
      </NTable>
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
