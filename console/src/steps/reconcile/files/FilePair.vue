<script setup lang="ts">
import { ref } from 'vue'
import { t } from '@/words'

/** Two circles that take a file each, publisher left and gradebook right; what is done with both is where they meet. */
defineProps<{ publisher: File | undefined; gradebook: File | undefined }>()
const emit = defineEmits<{ chosen: [side: 'publisher' | 'gradebook', file: File] }>()
const over = ref('')
const SIDES = [
  {
    side: 'publisher',
    title: t('files.file_pair.the_publishers_scores'),
    hint: t('files.file_pair.a_oneroster_set_a_tidy'),
  },
  {
    side: 'gradebook',
    title: t('files.file_pair.the_gradebook'),
    hint: t('files.file_pair.an_export_one_row_a'),
  },
] as const
function take(side: 'publisher' | 'gradebook', files: FileList | null | undefined) {
  over.value = ''
  if (files?.[0]) emit('chosen', side, files[0])
}
</script>

<template>
  <div class="pair">
    <label
      v-for="each in SIDES"
      :key="each.side"
      class="circle"
      :class="[
        each.side,
        { over: over === each.side, full: each.side === 'publisher' ? publisher : gradebook },
      ]"
      @dragover.prevent="over = each.side"
      @dragleave="over = ''"
      @drop.prevent="take(each.side, $event.dataTransfer?.files)"
    >
      <!-- Native: the circle itself is the label and the place to drop on; the library draws a box. -->
      <input
        class="sr-only"
        type="file"
        accept=".csv,.txt,.tsv,.zip"
        :aria-label="each.title"
        @change="take(each.side, ($event.target as HTMLInputElement).files)"
      />
      <strong>{{ each.title }}</strong>
      <span v-if="each.side === 'publisher' ? publisher : gradebook" class="name">{{
        (each.side === 'publisher' ? publisher : gradebook)!.name
      }}</span>
      <span v-else class="soft"
        >{{ $t('files.file_pair.drop_a_file_here_or') }}<br />{{ each.hint }}</span
      >
    </label>
    <div class="middle"><slot /></div>
  </div>
</template>

<style scoped>
.pair {
  position: relative;
  display: flex;
  justify-content: center;
  margin: 1rem auto 1.2rem;
  max-width: 44rem;
}
.circle {
  width: 19rem;
  aspect-ratio: 1;
  border-radius: 50%;
  display: flex;
  flex-direction: column;
  justify-content: center;
  gap: 0.3rem;
  cursor: pointer;
  border: 2.5px dashed;
  font-size: 0.95rem;
}
.publisher {
  background: var(--left-wash);
  border-color: var(--left);
  text-align: left;
  padding: 0 6rem 0 2.3rem;
  margin-right: -5rem;
}
.gradebook {
  background: color-mix(in srgb, var(--right-wash) 62%, transparent);
  border-color: var(--right);
  text-align: right;
  padding: 0 2.3rem 0 6rem;
}
.full {
  border-style: solid;
}
.over {
  border-width: 5px;
}
.circle:focus-within {
  outline: 3px solid var(--both);
  outline-offset: 2px;
}
.name {
  font-weight: 600;
  overflow-wrap: anywhere;
}
.soft {
  font-size: 0.85rem;
  color: var(--ink);
  opacity: 0.82;
}
.middle {
  position: absolute;
  inset: 0;
  display: flex;
  align-items: center;
  justify-content: center;
  pointer-events: none;
}
.middle > * {
  pointer-events: auto;
}
@media (max-width: 640px) {
  .pair {
    flex-direction: column;
    align-items: center;
  }
  .circle {
    width: 15rem;
    text-align: center;
    margin: 0;
  }
  .publisher {
    margin-bottom: -3.5rem;
    padding: 0 1.8rem 3.2rem;
  }
  .gradebook {
    padding: 3.2rem 1.8rem 0;
  }
}
</style>
