<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { NButton } from 'naive-ui/es/button'
import { NCheckbox } from 'naive-ui/es/checkbox'
import { computed, ref } from 'vue'
import { RouterLink, useRoute } from 'vue-router'
import EmptyNote from '@/parts/EmptyNote.vue'
import LoadingNote from '@/parts/LoadingNote.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import { shellsQuery } from '@/steps/pair/queries'
import SeveralBar from './SeveralBar.vue'

const route = useRoute()
const { data, error, isPending, refetch } = useQuery(shellsQuery())
// What needs attention first; the shell one came from before all.
const shells = computed(() =>
  [...(data.value?.results ?? [])].sort(
    (a, b) =>
      Number(b.id === route.query.shell) - Number(a.id === route.query.shell) ||
      Number(Boolean(b.attention)) - Number(Boolean(a.attention)) ||
      a.label.localeCompare(b.label),
  ),
)
const picking = ref(false)
const picked = ref<string[]>([])
const paired = computed(() => shells.value.filter((shell) => shell.pairing))
const chosen = computed(() => paired.value.filter((shell) => picked.value.includes(shell.id)))
const choose = (ids: string[], on: boolean) =>
  (picked.value = [...picked.value.filter((id) => !ids.includes(id)), ...(on ? ids : [])])
const open = computed(() => shells.value.filter((shell) => shell.attention).length)
const unpaired = computed(
  () => shells.value.filter((shell) => !shell.pairing && !shell.copied).length,
)
</script>

<template>
  <div class="page">
    <h1>Your shells</h1>
    <LoadingNote v-if="isPending" what="your shells" />
    <ProblemNote v-else-if="error" :error="error" @again="refetch()" />
    <EmptyNote v-else-if="!shells.length" title="No shells yet">
      <p>Open Venn Pair once from each course that you teach; it then stands here.</p>
    </EmptyNote>
    <template v-else>
      <p class="row">
        <span class="soft"
          >{{ shells.length }} in all, {{ open || 'none' }}
          {{ open === 1 ? 'needs' : 'need' }} attention.</span
        ><NButton v-if="paired.length > 1" size="small" @click="picking = !picking">{{
          picking ? 'Close' : 'Do one thing in several'
        }}</NButton
        ><NCheckbox
          v-if="picking"
          :checked="chosen.length === paired.length"
          :indeterminate="chosen.length > 0 && chosen.length < paired.length"
          @update:checked="
            (on: boolean) =>
              choose(
                paired.map((shell) => shell.id),
                on,
              )
          "
          >All {{ paired.length }} paired</NCheckbox
        ><RouterLink v-if="unpaired > 1" class="push" :to="{ name: 'begin-set-up' }"
          >Set up {{ unpaired }} shells together</RouterLink
        >
      </p>
      <SeveralBar v-if="picking" :chosen="chosen" />
      <ul class="shells">
        <li
          v-for="shell in shells"
          :key="shell.id"
          class="sheet"
          :class="{ here: shell.id === route.query.shell }"
        >
          <NCheckbox
            v-if="picking && shell.pairing"
            :checked="picked.includes(shell.id)"
            :aria-label="`Choose ${shell.label}`"
            @update:checked="(on: boolean) => choose([shell.id], on)"
          />
          <svg viewBox="0 0 64 40" width="64" height="40" aria-hidden="true" :class="shell.state">
            <circle class="a" :cx="shell.pairing ? 25 : 18" cy="20" r="15" />
            <circle class="b" :cx="shell.pairing ? 39 : 46" cy="20" r="15" />
          </svg>
          <div class="words">
            <h2>
              {{ shell.label }} <span class="title">{{ shell.title }}</span>
            </h2>
            <p class="soft">
              <template v-if="shell.course">with {{ shell.course }} · {{ shell.state }}</template
              ><template v-else>{{ shell.platform }}</template>
            </p>
            <p v-if="shell.attention" class="attention">{{ shell.attention }}</p>
          </div>
          <RouterLink
            v-if="shell.pairing"
            class="go"
            :to="{ name: 'pair', params: { pairing: shell.pairing } }"
            >Open<span class="sr-only"> {{ shell.label }}</span></RouterLink
          >
          <RouterLink
            v-else-if="shell.copied"
            class="go"
            :to="{ name: 'copied', params: { shell: shell.id } }"
            >Point its links<span class="sr-only"> of {{ shell.label }}</span></RouterLink
          >
          <span v-else class="ways"
            ><RouterLink class="go" :to="{ name: 'begin-set-up', query: { shell: shell.id } }"
              >Set up<span class="sr-only"> {{ shell.label }}</span></RouterLink
            ><RouterLink :to="{ name: 'choose-course', params: { shell: shell.id } }"
              >Pair only<span class="sr-only"> {{ shell.label }}</span></RouterLink
            ></span
          >
        </li>
      </ul>
    </template>
  </div>
</template>

<style scoped>
.shells {
  list-style: none;
  padding: 0;
  margin: 0;
  display: grid;
  gap: 0.7rem;
  grid-template-columns: repeat(auto-fill, minmax(min(100%, 33rem), 1fr));
}
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
.title {
  font-weight: 400;
}
.attention {
  color: var(--alarm);
  font-weight: 600;
}
.a {
  fill: var(--left-wash);
  stroke: var(--left);
  stroke-width: 2;
}
.b {
  fill: var(--right-wash);
  stroke: var(--right);
  stroke-width: 2;
  fill-opacity: 0.7;
}
svg.unpaired circle {
  stroke-dasharray: 4 3;
  fill-opacity: 0.35;
}
svg.paused circle,
svg.ready circle {
  stroke-dasharray: 4 3;
}
.go {
  border: 1.5px solid var(--both);
  border-radius: 8px;
  padding: 0.35rem 0.9rem;
  text-decoration: none;
  font-weight: 600;
  white-space: nowrap;
}
.ways {
  display: grid;
  gap: 0.5rem;
  justify-items: center;
}
.go:hover {
  background: var(--both-wash);
}
h2 {
  margin: 0;
}
@media (max-width: 640px) {
  svg {
    display: none;
  }
}
</style>
