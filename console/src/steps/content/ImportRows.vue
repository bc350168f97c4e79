<script setup lang="ts">
import { computed } from 'vue'
import { RouterLink } from 'vue-router'
import type { Schemas } from '@/api/client'
import { inZone } from '@/logic/dates'
import { t } from '@/words'

/** Cartridges, each with where it came from and how far it is. */
const props = defineProps<{
  pairing: string
  publisher: string
  imports: Schemas['Import'][]
  zone: string
}>()
const STAGES: Record<string, string> = {
  queued: t('content.imports.waits'),
  reading: t('content.imports.being_read'),
  checked: t('content.imports.read_and_checked'),
  importing: t('content.imports.being_brought_in'),
  done: t('content.imports.brought_in'),
}
/** Where each came from. */
const SOURCES = computed<Record<string, string>>(() => ({
  publisher: t('content.imports.from', { publisher: props.publisher }),
  catalogue: t('content.imports.the_catalogue_of', { publisher: props.publisher }),
  upload: t('content.imports.uploaded'),
}))
const standOf = ({ job, stage }: Schemas['Import']) =>
  job.state === 'failed'
    ? t('content.imports.could_not_be_read')
    : job.state === 'cancelled'
      ? t('content.imports.stopped')
      : STAGES[stage]
</script>

<template>
  <ul v-if="imports.length">
    <li v-for="each in imports" :key="each.id" class="row">
      <RouterLink :to="{ name: 'import', params: { pairing, import: each.id } }">{{
        each.title || each.filename || $t('content.imports.unnamed')
      }}</RouterLink>
      <span class="soft">{{ SOURCES[each.source] }}, {{ inZone(each.made_at, zone) }}</span>
      <span class="push">{{ standOf(each) }}</span>
    </li>
  </ul>
</template>

<style scoped>
ul {
  list-style: none;
  padding: 0;
  margin: 0.4rem 0 0;
}
li {
  padding: 0.3rem 0;
  border-top: 1px solid var(--rule);
}
</style>
