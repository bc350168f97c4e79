<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { NButton } from 'naive-ui/es/button'
import { computed, toRef } from 'vue'
import { RouterLink, useRouter } from 'vue-router'
import { answered, api } from '@/api/client'
import { many } from '@/logic/counting'
import EmptyNote from '@/parts/EmptyNote.vue'
import LoadingNote from '@/parts/LoadingNote.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import ConsentPanel from './ConsentPanel.vue'
import { consentQuery, copiedQuery, shellsQuery } from './queries'

const props = defineProps<{ shell: string }>()
const id = toRef(props, 'shell')
const router = useRouter()
const client = useQueryClient()
const { data: shells } = useQuery(shellsQuery())
const about = computed(() => shells.value?.results.find((each) => each.id === id.value))
const { data: consent } = useQuery(computed(() => consentQuery(id.value)))
const { data: found, error, isPending } = useQuery(computed(() => copiedQuery(id.value)))
const go = useMutation({
  mutationFn: (choice: 'same' | 'fresh') =>
    answered(
      api.POST('/api/v1/shells/{id}/copied', {
        params: { path: { id: id.value } },
        body: { choice, agree: true },
      }),
    ),
  onSuccess: async () => {
    const begun = await answered(
      api.POST('/api/v1/set-ups', {
        body: { sections: [{ shell: id.value, share: false, name: '' }], agree: true },
      }),
    )
    await client.invalidateQueries({ queryKey: ['shells'] })
    // The links lead somewhere now; what of last term's dates and columns follows is the next question.
    await router.push({ name: 'set-up', params: { setUp: begun.id }, query: { copied: '' } })
  },
})
const titles = { same: 'Same homework course', fresh: 'A fresh copy of it' }
</script>

<template>
  <div class="page">
    <LoadingNote v-if="isPending" what="where this shell came from" />
    <ProblemNote v-else-if="error" :error="error" />
    <EmptyNote v-else-if="!found?.copied" title="This shell was not copied from one that is paired"
      ><p>
        <RouterLink :to="{ name: 'choose-course', params: { shell: id } }"
          >Choose its homework course</RouterLink
        >.
      </p></EmptyNote
    >
    <template v-else>
      <h1>{{ about?.label ?? 'This shell' }} is a copy of {{ found.shell }}</h1>
      <div class="figure" aria-hidden="true">
        <svg viewBox="0 0 420 110" width="420" height="110">
          <circle class="a" cx="70" cy="55" r="42" />
          <circle class="b" cx="120" cy="55" r="42" />
          <path d="M178 55 H252 M240 45 L252 55 L240 65" />
          <circle class="b" cx="352" cy="55" r="42" />
          <circle class="a ghost" cx="302" cy="55" r="42" />
        </svg>
      </div>
      <p>
        Venn Pair placed {{ many(found.links, 'homework link') }} in {{ found.shell }}. Those that
        came along still lead to {{ found.course }} of that shell, so nobody is let through. Choose
        where they lead from now on: nothing in the shell is touched, and nothing of the old
        learners crosses over. The dates of last term come next.
      </p>
      <ConsentPanel v-if="consent && !consent.agreed" :shell="id" />
      <div class="ways">
        <section
          v-for="way in found.ways"
          :key="way.choice"
          class="sheet"
          :class="{ shut: !way.open }"
        >
          <h2>{{ titles[way.choice] }}</h2>
          <p>{{ way.why }}</p>
          <NButton
            v-if="way.open"
            type="primary"
            :loading="go.isPending.value && go.variables.value === way.choice"
            @click="go.mutate(way.choice)"
            >{{
              consent && !consent.agreed
                ? 'I agree: point the links there'
                : 'Point the links there'
            }}<span class="sr-only"> ({{ titles[way.choice] }})</span></NButton
          >
          <RouterLink v-else-if="way.why.includes('Accounts')" :to="{ name: 'accounts' }"
            >Link my account</RouterLink
          >
        </section>
      </div>
      <ProblemNote :error="go.error.value" />
      <p class="soft">
        Neither?
        <RouterLink :to="{ name: 'choose-course', params: { shell: id } }"
          >Choose another homework course</RouterLink
        >; links whose items are found there by title are pointed at it.
      </p>
    </template>
  </div>
</template>

<style scoped>
.ways {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 1rem;
  margin: 1rem 0;
}
.shut {
  opacity: 1;
  border-style: dashed;
}
.shut p {
  color: var(--soft);
}
.figure svg {
  max-width: 100%;
  height: auto;
}
.a {
  fill: var(--left-wash);
  stroke: var(--left);
  stroke-width: 2.5;
}
.b {
  fill: var(--right-wash);
  stroke: var(--right);
  stroke-width: 2.5;
  fill-opacity: 0.7;
}
.ghost {
  stroke-dasharray: 6 5;
  fill-opacity: 0.3;
}
path {
  fill: none;
  stroke: var(--both);
  stroke-width: 3;
}
@media (max-width: 640px) {
  .ways {
    grid-template-columns: 1fr;
  }
}
</style>
