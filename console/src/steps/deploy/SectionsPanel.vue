<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import type { Reading } from './reading'
import type { Section } from './sheet'

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
    ? `${plan.make} new, ${plan.columns} columns${plan.change ? `, ${plan.change} changed` : ''}${plan.same ? `, ${plan.same} there` : ''}`
    : props.chosen
      ? '…'
      : 'nothing is chosen yet'
</script>

<template>
  <table class="plain stack">
    <thead>
      <tr>
        <th scope="col">Shell</th>
        <th scope="col">Dates shifted by</th>
        <th scope="col">Folder</th>
        <th scope="col">What will happen there</th>
      </tr>
    </thead>
    <tbody>
      <tr>
        <td class="wide">{{ own }}</td>
        <td data-label="Dates shifted by">
          <input
            v-model.number="shift"
            type="number"
            :aria-label="`Days for ${own}`"
            min="-3700"
            max="3700"
          />
          days
        </td>
        <td data-label="Folder" class="soft">as chosen above</td>
        <td data-label="There">{{ words(first) }}</td>
      </tr>
      <tr v-for="each in sections" :key="each.pairing" :class="{ off: !each.on }">
        <td class="wide">
          <label><input v-model="each.on" type="checkbox" /> {{ each.label }}</label>
        </td>
        <td data-label="Dates shifted by">
          <input
            v-model.number="each.shift"
            type="number"
            :aria-label="`Days for ${each.label}`"
            min="-3700"
            max="3700"
            :disabled="!each.on"
          />
          days
        </td>
        <td data-label="Folder">
          <input
            v-model="each.folder"
            class="folder"
            placeholder="as above"
            :aria-label="`Folder in ${each.label}`"
            :disabled="!each.on"
            maxlength="255"
          />
        </td>
        <td data-label="There">
          <span
            v-if="each.on && readings.get(each.pairing)?.words"
            :class="{ alarm: readings.get(each.pairing)!.failed }"
            role="status"
            >{{ readings.get(each.pairing)!.words }}</span
          >
          <template v-else-if="each.on"
            >{{ words(planOf.get(each.pairing))
            }}<span v-if="planOf.get(each.pairing)?.lost.length" class="lost">
              · not in this section: {{ planOf.get(each.pairing)!.lost.join(', ') }}</span
            ></template
          >
          <span v-else class="soft">not this time</span>
        </td>
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
input[type='number'] {
  width: 5rem;
}
.folder {
  width: 11rem;
  max-width: 100%;
}
input[type='number'],
.folder {
  font: inherit;
  color: inherit;
  background: var(--paper);
  border: 1px solid var(--rule);
  border-radius: 6px;
  padding: 0.15rem 0.4rem;
}
input {
  accent-color: var(--both);
}
.alarm {
  color: var(--alarm);
}
.lost {
  color: var(--left);
}
</style>
