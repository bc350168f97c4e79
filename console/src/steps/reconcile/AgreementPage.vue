<script setup lang="ts">
import { useInfiniteQuery, useMutation, useQueryClient } from '@tanstack/vue-query'
import { NButton } from 'naive-ui/es/button'
import { NInput } from 'naive-ui/es/input'
import { computed, ref } from 'vue'
import { RouterLink, useRoute } from 'vue-router'
import { answered, api, type Schemas } from '@/api/client'
import { many } from '@/logic/counting'
import { kindOf } from '@/logic/kinds'
import EmptyNote from '@/parts/EmptyNote.vue'
import KindTag from '@/parts/KindTag.vue'
import LoadingNote from '@/parts/LoadingNote.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import { agreementQuery } from './queries'

/** Every pairing at once: how far each agrees, what is open by cause, and for how long. What is most urgent comes first. */
const LOUDEST = ['alarm', 'left', 'right', 'both', 'quiet']
const route = useRoute()
const client = useQueryClient()
const open = computed(() => route.query.open === 'true')
const words = ref('')
const list = useInfiniteQuery(
  computed(() =>
    agreementQuery({
      ...(open.value ? { open: 'true' } : {}),
      ...(words.value.trim() ? { q: words.value.trim() } : {}),
    }),
  ),
)
const nothing = computed(() =>
  words.value.trim()
    ? { title: 'No pairing fits', what: 'Try fewer words.' }
    : open.value
      ? { title: 'Nothing is open', what: 'Every pairing agrees, or was decided on.' }
      : {
          title: 'No pairings yet',
          what: 'A pairing is listed here once a shell is joined to a homework course.',
        },
)
const rows = computed(() => list.data.value?.pages.flatMap((page) => page.results) ?? [])
const total = computed(() =>
  rows.value.reduce(
    (sum, row) => ({
      cells: sum.cells + row.cells,
      agree: sum.agree + row.agree,
      urgent: sum.urgent + row.urgent,
    }),
    { cells: 0, agree: 0, urgent: 0 },
  ),
)
const compare = useMutation({
  mutationFn: () => answered(api.POST('/api/v1/agreement')),
  onSuccess: () => client.invalidateQueries({ queryKey: ['agreement'] }),
})
const busy = computed(() =>
  rows.value.some((row) => ['waiting', 'comparing'].includes(row.standing)),
)
const share = (row: { agree: number; cells: number }) =>
  row.cells
    ? row.agree === row.cells
      ? 100
      : Math.min(99, Math.floor((100 * row.agree) / row.cells))
    : null
const causes = (row: Schemas['Agreement']) =>
  Object.entries(row.open).sort(
    ([a], [b]) => LOUDEST.indexOf(kindOf(a).tone) - LOUDEST.indexOf(kindOf(b).tone),
  )
const days = (since: string | null) =>
  since ? Math.floor((Date.now() - Date.parse(since)) / 86_400_000) : null
const age = (since: string | null) => {
  const count = days(since)
  return count === null ? '' : count === 0 ? 'since today' : `for ${many(count, 'day')}`
}
const STANDING: Record<string, string> = {
  waiting: 'waits for its turn',
  comparing: 'comparing now',
  never: 'not compared yet',
}
</script>

<template>
  <div class="page">
    <div class="row">
      <h1>Agreement</h1>
      <NButton
        class="push"
        type="primary"
        :loading="compare.isPending.value"
        @click="compare.mutate()"
        >Compare all now</NButton
      >
    </div>
    <ProblemNote :error="compare.error.value" />
    <p v-if="compare.data.value && busy" role="status">
      {{ many(compare.data.value.asked, 'pairing is', 'pairings are') }} being compared, a few of
      one platform at a time; this page follows.
    </p>
    <label for="pairing-words" class="sr-only">Search by shell, course or teacher</label>
    <NInput
      v-model:value="words"
      clearable
      placeholder="Search by shell, course or teacher"
      :input-props="{ id: 'pairing-words', type: 'search' }"
    />
    <LoadingNote v-if="list.isPending.value" what="all pairings" />
    <ProblemNote v-else-if="list.error.value" :error="list.error.value" @again="list.refetch()" />
    <EmptyNote v-else-if="!rows.length" :title="nothing.title"
      ><p>{{ nothing.what }}</p></EmptyNote
    >
    <template v-else>
      <p class="row">
        <span
          ><strong>{{ share(total) ?? '–' }} %</strong> of {{ total.cells }} scores agree in
          {{ many(rows.length, 'pairing') }}; <strong>{{ total.urgent }}</strong>
          {{ total.urgent === 1 ? 'finding is' : 'findings are' }} open.</span
        >
        <RouterLink class="push" :to="{ query: open ? {} : { open: 'true' } }">{{
          open ? 'Show all' : 'Only those with something open'
        }}</RouterLink>
      </p>
      <div class="scroll">
        <table class="plain stack">
          <thead>
            <tr>
              <th>Shell</th>
              <th>Agreement</th>
              <th class="number">Open</th>
              <th>By cause</th>
              <th>Oldest</th>
              <th>Compared</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="row in rows" :key="row.pairing">
              <td class="wide">
                <RouterLink :to="{ name: 'reconcile', params: { pairing: row.pairing } }">{{
                  row.shell
                }}</RouterLink>
                <div class="soft small">
                  {{ row.course
                  }}<template v-if="row.teachers.length"> · {{ row.teachers.join(', ') }}</template>
                </div>
              </td>
              <td data-label="Agreement">
                <span v-if="row.cells" class="bar" :title="`${row.agree} of ${row.cells}`"
                  ><i :style="{ width: `${share(row)}%` }"></i><b>{{ share(row) }} %</b></span
                ><span v-else class="soft">–</span>
              </td>
              <td class="number" data-label="Open">{{ row.urgent }}</td>
              <td data-label="By cause">
                <span class="row tags"
                  ><RouterLink
                    v-for="[kind, count] in causes(row)"
                    :key="kind"
                    :to="{ name: 'reconcile', params: { pairing: row.pairing }, query: { kind } }"
                    ><KindTag :code="kind" :count="count" /></RouterLink
                ></span>
              </td>
              <td data-label="Oldest" class="soft">{{ age(row.oldest) }}</td>
              <td data-label="Compared" class="soft">
                <span v-if="row.trouble" class="trouble">{{ row.trouble }}</span><template v-else>{{
                  STANDING[row.standing] ??
                  (days(row.at) === 0 ? 'today' : `${days(row.at)} days ago`)
                }}</template>
              </td>
            </tr>
          </tbody>
        </table>
      </div>
      <NButton
        v-if="list.hasNextPage.value"
        :loading="list.isFetchingNextPage.value"
        @click="list.fetchNextPage()"
        >Show more</NButton
      >
    </template>
  </div>
</template>

<style scoped>
.small {
  font-size: 0.86rem;
}
.bar {
  position: relative;
  display: inline-block;
  width: 8.5rem;
  height: 1.5rem;
  border-radius: 999px;
  background: var(--alarm-wash);
  overflow: hidden;
}
.bar i {
  position: absolute;
  inset: 0 auto 0 0;
  background: var(--both-wash);
  border-right: 2px solid var(--both);
}
.bar b {
  position: relative;
  display: block;
  padding-left: 0.7rem;
  line-height: 1.5rem;
  font-size: 0.88rem;
}
.tags {
  gap: 0.3rem;
}
.tags a {
  text-decoration: none;
}
.trouble {
  color: var(--alarm);
}
</style>
