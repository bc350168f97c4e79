<script setup lang="ts">
import { NInput } from 'naive-ui/es/input'
import { NInputNumber } from 'naive-ui/es/input-number'
import { NCheckbox } from 'naive-ui/es/checkbox'
import { NTable } from 'naive-ui/es/table'
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import type { Reading } from './reading'
import type { Section } from './sheet'
import { t } from '@/words'

const props = defineProps<{
  own: string
  plans?: Schemas['Plan'][]
  readings: Map<string, Reading>
  chosen: number
}>()
const sections = defineModel<Section[]>({ required: true })
const shift = defineModel<number>('shift', { required: true })
const planOf = computed(() => new Map((props.plans ?? []).map((plan) => [plan.pairing, plan])))
const first = computed(() => props.plans?.[0])
const words = (plan?: Schemas['Plan']) =>
  plan
    ? t('deploy.sections.new_columns', {
        make: plan.make,
        columns: plan.columns,
        changed: plan.change ? t('deploy.sections.changed', { change: plan.change }) : '',
        there: plan.same ? t('deploy.sections.there_2', { same: plan.same }) : '',
      })
    : props.chosen
      ? '…'
      : t('deploy.sections.nothing_is_chosen_yet')
</script>

<template>
  <NTable :bordered="false" class="plain stack">
    <thead>
      <tr>
        <th scope="col">{{ $t('deploy.sections.shell') }}</th>
        <th scope="col">{{ $t('deploy.sections.dates_shifted_by') }}</th>
        <th scope="col">{{ $t('deploy.sections.folder') }}</th>
        <th scope="col">{{ $t('deploy.sections.what_will_happen_there') }}</th>
      </tr>
    </thead>
    <tbody>
      <tr>
        <td class="wide">{{ own }}</td>
        <td :data-label="$t('deploy.sections.dates_shifted_by')">
          <NInputNumber
            placeholder=""
            v-model:value="shift"
            size="small"
            :show-button="false"
            :min="-3700"
            :max="3700"
            :input-props="{ 'aria-label': $t('deploy.sections.days_for', { own }) }"
          />
          {{ $t('deploy.sections.days') }}
        </td>
        <td :data-label="$t('deploy.sections.folder')" class="soft">
          {{ $t('deploy.sections.as_chosen_above') }}
        </td>
        <td :data-label="$t('deploy.sections.there')">{{ words(first) }}</td>
      </tr>
      <tr v-for="each in sections" :key="each.pairing" :class="{ off: !each.on }">
        <td class="wide">
          <NCheckbox v-model:checked="each.on">{{ each.label }}</NCheckbox>
        </td>
        <td :data-label="$t('deploy.sections.dates_shifted_by')">
          <NInputNumber
            placeholder=""
            v-model:value="each.shift"
            size="small"
            :show-button="false"
            :min="-3700"
            :max="3700"
            :disabled="!each.on"
            :input-props="{ 'aria-label': $t('deploy.sections.days_for_2', { label: each.label }) }"
          />
          {{ $t('deploy.sections.days') }}
        </td>
        <td :data-label="$t('deploy.sections.folder')">
          <NInput
            v-model:value="each.folder"
            size="small"
            :maxlength="255"
            class="folder"
            :placeholder="$t('deploy.sections.as_above')"
            :disabled="!each.on"
            :input-props="{ 'aria-label': $t('deploy.sections.folder_in', { label: each.label }) }"
          />
        </td>
        <td :data-label="$t('deploy.sections.there')">
          <span
            v-if="each.on && readings.get(each.pairing)?.words"
            :class="{ alarm: readings.get(each.pairing)!.failed }"
            role="status"
            >{{ readings.get(each.pairing)!.words }}</span
          >
          <template v-else-if="each.on"
            >{{ words(planOf.get(each.pairing))
            }}<span v-if="planOf.get(each.pairing)?.lost.length" class="lost">
              {{
                $t('deploy.sections.not_in_this_section', {
                  lost: planOf.get(each.pairing)!.lost.join(', '),
                })
              }}</span
            ></template
          >
          <span v-else class="soft">{{ $t('deploy.sections.not_this_time') }}</span>
        </td>
      </tr>
    </tbody>
  </NTable>
</template>

<style scoped>
.folder {
  width: 11rem;
  max-width: 100%;
}
.alarm {
  color: var(--alarm);
}
.lost {
  color: var(--left);
}
</style>
