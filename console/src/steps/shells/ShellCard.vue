<script setup lang="ts">
import { RouterLink } from 'vue-router'
import type { Schemas } from '@/api/client'
import { stateName } from '@/logic/states'
import TwoCircles from '@/parts/TwoCircles.vue'

defineProps<{ shell: Schemas['Shell']; here: boolean }>()
</script>

<template>
  <li class="sheet" :class="{ here }">
    <slot />
    <TwoCircles
      :together="Boolean(shell.pairing)"
      :dashed="['unpaired', 'paused', 'ready'].includes(shell.state)"
      :faint="shell.state === 'unpaired'"
    />
    <div class="words">
      <h2>
        {{ shell.label }} <span class="title">{{ shell.title }}</span>
      </h2>
      <p class="soft">
        <template v-if="shell.course"
          >{{ $t('shells.with', { course: shell.course }) }} ·
          {{ stateName('state', shell.state) }}</template
        ><template v-else>{{ shell.platform }}</template>
      </p>
      <p v-if="shell.attention" class="attention">{{ shell.attention }}</p>
    </div>
    <RouterLink
      v-if="shell.pairing"
      class="go"
      :to="{ name: 'pair', params: { pairing: shell.pairing } }"
      >{{ $t('common.open') }}<span class="sr-only"> {{ shell.label }}</span></RouterLink
    >
    <RouterLink
      v-else-if="shell.copied"
      class="go"
      :to="{ name: 'copied', params: { shell: shell.id } }"
      >{{ $t('shells.point') }}<span class="sr-only">: {{ shell.label }}</span></RouterLink
    >
    <span v-else class="ways"
      ><RouterLink class="go" :to="{ name: 'begin-set-up', query: { shell: shell.id } }"
        >{{ $t('crumb.set_up') }}<span class="sr-only"> {{ shell.label }}</span></RouterLink
      ><RouterLink :to="{ name: 'choose-course', params: { shell: shell.id } }"
        >{{ $t('shells.pair_only') }}<span class="sr-only"> {{ shell.label }}</span></RouterLink
      ></span
    >
  </li>
</template>

<style scoped>
li {
  display: flex;
  gap: 1rem;
  align-items: center;
}
li.here {
  border-color: var(--both);
  border-width: 2px;
}
.words {
  flex: 1;
  min-width: 0;
}
.words p {
  margin: 0;
}
h2 {
  margin: 0;
}
.title {
  font-weight: 400;
}
.attention {
  color: var(--alarm);
  font-weight: 600;
}
.ways {
  display: grid;
  gap: 0.5rem;
  justify-items: center;
}
</style>
