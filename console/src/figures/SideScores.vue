<script setup lang="ts">
/** One cell's values where they are: publisher left, shell right, what was sent in the middle where that is known. */
defineProps<{ publisher: string | null; sent?: string | null; gradebook: string | null }>()
</script>

<template>
  <span class="scores">
    <span class="left-ink"
      ><span class="sr-only">{{ $t('figures.side_scores.publisher') }} </span
      >{{ publisher ?? $t('figures.side_scores.none') }}</span
    >
    <span
      v-if="sent !== undefined"
      class="sent"
      :title="
        sent === null
          ? $t('figures.side_scores.nothing_was_sent')
          : $t('figures.side_scores.sent', { sent })
      "
      ><span class="sr-only">{{ $t('figures.side_scores.sent_2') }} </span
      >{{ sent === null ? '·' : sent }}</span
    >
    <span class="right-ink"
      ><span class="sr-only">{{ $t('figures.side_scores.gradebook') }} </span
      >{{ gradebook ?? $t('figures.side_scores.none') }}</span
    >
  </span>
</template>

<style scoped>
.scores {
  display: inline-flex;
  text-align: center;
  font-variant-numeric: tabular-nums;
  align-items: center;
}
.scores > span {
  padding-inline: 0.6rem;
  min-width: 3.4rem;
}
.left-ink {
  background: var(--left-wash);
  border-radius: 999px 0 0 999px;
}
.right-ink {
  background: var(--right-wash);
  border-radius: 0 999px 999px 0;
}
.sent {
  background: var(--both-wash);
  color: var(--both);
}
</style>
