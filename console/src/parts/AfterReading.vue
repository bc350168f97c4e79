<script setup lang="ts">
import EmptyNote from './EmptyNote.vue'
import LoadingNote from './LoadingNote.vue'
import ProblemNote from './ProblemNote.vue'
import type { Reading } from './reading'

/**
 * What the service was asked for, once it is there; until then that it is being read, why it could not be,
 * or that there is none. What was read before stays in sight when a later reading fails.
 */
defineProps<{
  reading: Reading
  /** What is being read, to end a sentence. */
  what: string
  /** The heading where there is none; empty where there is some. */
  none?: string | false
  /** What that means, where a sentence says it; else the slot ``none`` does. */
  noneMeans?: string
}>()
</script>

<template>
  <LoadingNote v-if="reading.isPending.value" :what="what" />
  <template v-else>
    <ProblemNote :error="reading.error.value" @again="reading.refetch()" />
    <template v-if="!reading.isLoadingError.value">
      <EmptyNote v-if="none" :title="none"
        ><slot name="none"
          ><p>{{ noneMeans }}</p></slot
        ></EmptyNote
      >
      <slot v-else />
    </template>
  </template>
</template>
