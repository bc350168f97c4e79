<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { RouterLink, useRouter } from 'vue-router'
import AfterReading from '@/parts/AfterReading.vue'
import NowherePage from '@/parts/NowherePage.vue'
import { language } from '@/words'
import { DOCS } from './docs'

const props = defineProps<{ page: string }>()
const router = useRouter()
const { data: html, ...reading } = useQuery({
  queryKey: computed(() => ['docs', props.page]),
  enabled: computed(() => props.page in DOCS),
  staleTime: Infinity,
  queryFn: async () => {
    const [{ default: MarkdownIt }, words] = await Promise.all([
      import('markdown-it'),
      DOCS[props.page]!(),
    ])
    // Marks of ours in a page's source are for whoever writes it.
    const text = words.replaceAll(/<!--.*?-->\n?/gs, '')
    const made = new MarkdownIt({ html: false, linkify: false }).render(text)
    // What scrolls sideways is reached by keys too.
    return made
      .replaceAll('<pre>', '<pre tabindex="0">')
      .replaceAll('<table>', '<table tabindex="0">')
  },
})
/** A link from one help page to the next stays in the console. */
function follow(event: MouseEvent) {
  const link = (event.target as HTMLElement).closest('a')?.getAttribute('href') ?? ''
  const page = /^([a-z-]+)\.md(#.*)?$/.exec(link)?.[1]
  if (!page) return
  event.preventDefault()
  void router.push({ name: 'docs', params: { page } })
}
</script>

<template>
  <NowherePage v-if="!(page in DOCS)" />
  <div v-else class="page">
    <p class="row">
      <RouterLink
        v-for="name in Object.keys(DOCS)"
        :key="name"
        :to="{ name: 'docs', params: { page: name } }"
        >{{ name.replaceAll('-', ' ') }}</RouterLink
      >
    </p>
    <p v-if="language() !== 'en'" class="soft">{{ $t('docs.only_english') }}</p>
    <AfterReading :reading="reading" :what="$t('docs.what')">
      <!-- eslint-disable-next-line vue/no-v-html -- our own pages of docs/, HTML in them is off -->
      <article lang="en" @click="follow" v-html="html"></article>
    </AfterReading>
  </div>
</template>

<style scoped>
article {
  max-width: 52rem;
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
article :deep(h1),
article :deep(h2) {
  margin-top: 1.2rem;
}
article :deep(img) {
  max-width: 100%;
}
</style>
