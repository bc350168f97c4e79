<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import { byName } from '@/logic/order'

const props = defineProps<{ plan: Schemas['SetUpPlan'] }>()
const sections = computed(() => [...props.plan.sections].sort((a, b) => byName(a.name, b.name)))
/** What to look at, once for all sections that it holds for; what the form asks is asked there. */
const notices = computed(() => {
  const found = new Map<string, { level: string; message: string; remedy: string; of: string[] }>()
  for (const section of sections.value)
    for (const each of section.plan?.notices ?? []) {
      if (each.level === 'note' || each.code === 'due_missing') continue
      const known = found.get(each.message) ?? { ...each, of: [] }
      known.of.push(section.name)
      found.set(each.message, known)
    }
  return [...found.values()]
})
</script>

<template>
  <section class="sheet" aria-labelledby="will">
    <h2 id="will">{{ $t('set_up.section_plans.what_will_happen') }}</h2>
    <ul class="sentences">
      <li v-for="each in sections" :key="each.shell">
        {{ each.sentence }} <span v-if="each.remedy" class="soft">{{ each.remedy }}</span>
      </li>
    </ul>
    <template v-if="notices.length">
      <h3>{{ $t('set_up.section_plans.to_look_at_first') }}</h3>
      <ul>
        <li v-for="each in notices" :key="each.message" :class="each.level">
          <strong>{{ each.of.join(', ') }}:</strong> {{ each.message }}
          <span class="soft">{{ each.remedy }}</span>
        </li>
      </ul>
    </template>
  </section>
</template>

<style scoped>
.sentences {
  font-weight: 600;
}
h3 {
  font-size: 1rem;
}
.error strong {
  color: var(--alarm);
}
</style>
