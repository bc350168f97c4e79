<script setup lang="ts">
import { NButton } from 'naive-ui/es/button'
import { computed } from 'vue'
import { RouterLink } from 'vue-router'
import type { Schemas } from '@/api/client'
import ImportFigure from '@/figures/ImportFigure.vue'
import { type Row, sides } from '@/logic/entries'
import { stateName } from '@/logic/states'
import MoreBelow from '@/parts/MoreBelow.vue'

const props = defineProps<{
  pairing: string
  imported: Schemas['Import']
  publisher?: string
  rows: Row[]
  /** Whether what it brought may be taken out now. */
  undoable: boolean
}>()
const emit = defineEmits<{ undo: [] }>()
const findings = computed(() => props.imported.findings)
</script>

<template>
  <div class="head">
    <div class="grow">
      <p class="soft">
        <RouterLink :to="{ name: 'content', params: { pairing } }">{{
          $t('content.import.content')
        }}</RouterLink>
        {{ $t('content.import.cartridge') }}
      </p>
      <h2 class="name">{{ imported.title || imported.filename }}</h2>
      <p class="soft">
        {{
          imported.source === 'catalogue'
            ? $t('content.import.the_catalogue_of', {
                publisher: publisher ?? $t('content.import.the_publisher'),
              })
            : $t('content.import.common_cartridge', {
                version: imported.version || $t('content.import.of_unknown_version'),
                profile: imported.profile ? `, ${imported.profile}` : '',
              })
        }}; {{ imported.job.message }}
      </p>
      <MoreBelow
        v-if="findings.length"
        :title="
          $t('content.import.in_the_package', { finding: $t('count.findings', findings.length) })
        "
      >
        <ul>
          <li v-for="(each, number) in findings" :key="number">
            <strong :class="each.level">{{ stateName('level', each.level) }}</strong>
            {{ each.message }}
            <span class="soft">{{ each.remedy }}</span>
          </li>
        </ul>
      </MoreBelow>
      <NButton v-if="undoable" size="small" @click="emit('undo')">{{
        $t('content.import.take_out_again')
      }}</NButton>
    </div>
    <ImportFigure v-if="rows.length" v-bind="sides(rows)" />
  </div>
</template>

<style scoped>
.head {
  display: flex;
  gap: 1.4rem;
  align-items: flex-start;
  margin-bottom: 0.8rem;
  flex-wrap: wrap;
}
.grow {
  flex: 1 1 20rem;
}
.name {
  font-size: 1.3rem;
}
.error {
  color: var(--alarm);
}
.warning {
  color: var(--left);
}
</style>
