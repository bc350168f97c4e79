<script setup lang="ts">
import { computed } from 'vue'
import AfterReading from '@/parts/AfterReading.vue'
import NowherePage from '@/parts/NowherePage.vue'
import { language } from '@/words'
import HelpContents from './HelpContents.vue'
import { isHelp } from './pages'
import { useHelpPage } from './useHelpPage'

const props = defineProps<{ page: string }>()
const { reading, spoken, follow } = useHelpPage(computed(() => props.page))
const { data: typeset } = reading
</script>

<template>
  <NowherePage v-if="!isHelp(page)" />
  <div v-else class="page help">
    <div class="reading">
      <p class="narrow">
        <a href="#help-pages" @click="follow">{{ $t('help_pages.all') }}</a>
      </p>
      <p v-if="language() !== spoken" class="soft">{{ $t('help_pages.only_english') }}</p>
      <AfterReading :reading="reading" :what="$t('help_pages.what')">
        <!-- eslint-disable-next-line vue/no-v-html -- our own pages of docs/, HTML in them is off -->
        <article :lang="spoken" @click="follow" v-html="typeset?.html"></article>
      </AfterReading>
    </div>
    <HelpContents :page="page" :parts="typeset?.parts ?? []" />
  </div>
</template>

<style scoped>
.help {
  display: grid;
  grid-template-columns: 15rem minmax(0, 52rem);
  gap: 2.5rem;
  align-items: start;
}
.help > nav {
  grid-column: 1;
  grid-row: 1;
  position: sticky;
  top: 1rem;
  max-height: calc(100vh - 2rem);
  overflow-y: auto;
}
.reading {
  grid-column: 2;
  min-width: 0;
}
.narrow {
  display: none;
}
@media (max-width: 900px) {
  .help {
    grid-template-columns: minmax(0, 1fr);
  }
  .help > nav {
    grid-row: 2;
    position: static;
    max-height: none;
  }
  .reading {
    grid-column: 1;
  }
  .narrow {
    display: block;
  }
}
@media print {
  .help {
    display: block;
  }
  .help > nav,
  .narrow {
    display: none;
  }
}
article :deep(table) {
  border-collapse: collapse;
  display: block;
  overflow-x: auto;
}
article :deep(td),
article :deep(th) {
  border-bottom: 1px solid var(--rule);
  padding: 0.3rem 0.6rem;
  text-align: left;
  vertical-align: top;
}
article :deep(pre) {
  background: var(--sheet);
  border: 1px solid var(--rule);
  border-radius: 8px;
  padding: 0.7rem 1rem;
  overflow-x: auto;
}
article :deep(code) {
  overflow-wrap: anywhere;
}
/* A table scrolls rather than break a word that people type. */
article :deep(td code) {
  overflow-wrap: break-word;
}
article :deep(h2),
article :deep(h3) {
  margin-top: 1.4rem;
  scroll-margin-top: 1rem;
}
article :deep(img) {
  max-width: 100%;
  border: 1px solid var(--rule);
  border-radius: 10px;
}
</style>
