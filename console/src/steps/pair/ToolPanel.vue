<script setup lang="ts">
import { NAlert } from 'naive-ui/es/alert'
import { NButton } from 'naive-ui/es/button'
import { toRef } from 'vue'
import { inZone } from '@/logic/dates'
import AfterReading from '@/parts/AfterReading.vue'
import JobNote from '@/parts/JobNote.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import { useTool } from './useTool'

const props = defineProps<{ shell: string; pairing: string; zone: string; mayChange: boolean }>()
const { tool, asked, change, foresee, job, reading } = useTool(
  toRef(props, 'shell'),
  toRef(props, 'pairing'),
)
</script>

<template>
  <AfterReading :reading="reading" :what="$t('tool.what')">
    <template v-if="tool && !tool.offered">
      <p>{{ $t('tool.by_hand') }}</p>
      <ol>
        <li v-for="step in tool.by_hand" :key="step">{{ step }}</li>
      </ol>
      <p class="soft">{{ $t('tool.opened', { at: inZone(tool.opened_at, zone) }) }}</p>
    </template>
    <template v-else-if="tool">
      <p>
        {{ $t(tool.on ? 'tool.is_on' : 'tool.is_off') }}
        {{
          tool.navigation
            ? $t('tool.in_navigation', { place: (tool.position ?? 0) + 1 })
            : $t('tool.not_in_navigation')
        }}
        {{ $t(tool.audience === 'everyone' ? 'tool.for_everyone' : 'tool.for_instructors') }}
        {{ $t('tool.needed', tool.links) }}
      </p>
      <div v-if="mayChange" class="row">
        <NButton
          size="small"
          :loading="foresee.isPending.value"
          @click="foresee.mutate({ on: !tool.on })"
          >{{ $t(tool.on ? 'tool.turn_off' : 'tool.turn_on') }}</NButton
        >
        <NButton size="small" @click="foresee.mutate({ navigation: !tool.navigation })">{{
          $t(tool.navigation ? 'tool.remove_navigation' : 'tool.add_navigation')
        }}</NButton>
        <NButton
          v-if="tool.audience === 'everyone'"
          size="small"
          @click="foresee.mutate({ audience: 'instructor' })"
          >{{ $t('tool.show_instructors') }}</NButton
        >
        <NButton v-else size="small" @click="foresee.mutate({ audience: 'everyone' })">{{
          $t('tool.show_everyone')
        }}</NButton>
        <NButton
          v-if="tool.navigation && (tool.position ?? 0) > 0"
          size="small"
          @click="change.mutate({ position: (tool.position ?? 1) - 1 })"
          >{{ $t('tool.up') }}</NButton
        >
        <NButton
          v-if="tool.navigation"
          size="small"
          @click="change.mutate({ position: (tool.position ?? 0) + 1 })"
          >{{ $t('tool.down') }}</NButton
        >
      </div>
      <NAlert v-if="asked" class="warn" type="warning" role="alert" :bordered="false">
        <p>{{ foresee.data.value?.warning }}</p>
        <div class="row">
          <NButton
            size="small"
            type="primary"
            :loading="change.isPending.value"
            @click="change.mutate(asked)"
            >{{ $t('tool.change') }}</NButton><NButton size="small" @click="foresee.reset()">{{
            $t('common.cancel')
          }}</NButton>
        </div>
      </NAlert>
      <JobNote v-if="job" :job="job" :doing="$t('tool.changing')" />
      <ProblemNote :error="change.error.value ?? foresee.error.value" />
    </template>
  </AfterReading>
</template>

<style scoped>
.warn {
  margin-top: 0.6rem;
}
</style>
