<script setup lang="ts">
import { NButton } from 'naive-ui/es/button'
import type { Schemas } from '@/api/client'
import EntryPreview from './EntryPreview.vue'
import EntryTree from './EntryTree.vue'

/** What is in a package, and beside it the one entry that is looked at. */
defineProps<{
  pairing: string
  made: string
  /** All entries, and those that fit what is searched. */
  rows: Schemas['Entry'][]
  shown: Schemas['Entry'][]
  entry?: Schemas['Entry']
  graded: Schemas['Item'][]
  zone: string
  mayChange: boolean
}>()
defineEmits<{ look: [entry?: string] }>()
const chosen = defineModel<string[]>({ required: true })
const questions = defineModel<Record<string, number[]>>('questions', { required: true })
</script>

<template>
  <div class="panes" :class="{ both: entry }">
    <section class="package" :aria-label="$t('content.import.what_is_in_the_package')">
      <EntryTree
        v-model="chosen"
        :rows="shown"
        :all="rows"
        :zone="zone"
        :open="entry?.id"
        @look="$emit('look', $event)"
      />
      <p v-if="!shown.length" class="soft">
        {{ $t('content.import.no_entry_fits_this_view') }}
      </p>
    </section>
    <aside v-if="entry" class="seen">
      <NButton class="close" size="tiny" @click="$emit('look')">{{
        $t('content.import.close')
      }}</NButton><EntryPreview
        v-model:questions="questions"
        :pairing="pairing"
        :made="made"
        :entry="entry"
        :graded="graded"
        :zone="zone"
        :may-change="mayChange"
      />
    </aside>
  </div>
</template>

<style scoped>
.panes {
  display: grid;
  gap: 1.2rem;
}
.panes.both {
  grid-template-columns: minmax(0, 1.35fr) minmax(0, 1fr);
}
.package {
  background: var(--sheet);
  border: 1px solid var(--rule);
  border-top: 4px solid var(--left);
  border-radius: 12px;
  padding: 0.8rem 0.9rem;
}
.seen {
  background: var(--sheet);
  border: 1px solid var(--rule);
  border-radius: 12px;
  padding: 0.9rem 1rem;
  position: sticky;
  top: 0.6rem;
  align-self: start;
  max-height: calc(100vh - 11rem);
  overflow-y: auto;
}
.close {
  float: right;
}
@media (max-width: 860px) {
  .panes.both {
    grid-template-columns: minmax(0, 1fr);
  }
  .seen {
    position: static;
    max-height: none;
    order: -1;
  }
}
</style>
