<script setup lang="ts">
import { stateName } from '@/logic/states'
import MoreBelow from '@/parts/MoreBelow.vue'
import { useInfiniteQuery, useMutation, useQuery } from '@tanstack/vue-query'
import { NButton } from 'naive-ui/es/button'
import { NInput } from 'naive-ui/es/input'
import { computed, ref, toRef, watch } from 'vue'
import { RouterLink, useRoute, useRouter } from 'vue-router'
import { answered, api, type Schemas } from '@/api/client'
import ImportFigure from '@/figures/ImportFigure.vue'
import { kindCounts, kindName, needsLook, recognised, sides, viewed } from '@/logic/entries'
import EmptyNote from '@/parts/EmptyNote.vue'
import { ENDED, useJob } from '@/parts/job'
import JobNote from '@/parts/JobNote.vue'
import LoadingNote from '@/parts/LoadingNote.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import { pairingQuery } from '@/steps/pair/queries'
import BringBar from './BringBar.vue'
import EntryPreview from './EntryPreview.vue'
import EntryTree from './EntryTree.vue'
import { useBringing } from './bringing'
import { entriesQuery, importQuery, itemsQuery, outlineQuery, recognisedQuery } from './queries'
import RenamePanel from './RenamePanel.vue'
import UndoPanel from './UndoPanel.vue'
import { t } from '@/words'

const props = defineProps<{ pairing: string; import: string }>()
const id = toRef(props, 'pairing')
const made = toRef(props, 'import')
const route = useRoute()
const router = useRouter()
const { data: about } = useQuery(computed(() => pairingQuery(id.value)))
const zone = computed(() => about.value?.shell.timezone ?? 'UTC')
const {
  data: imported,
  error,
  isPending,
} = useQuery(computed(() => importQuery(id.value, made.value)))
const entries = useQuery(computed(() => entriesQuery(id.value, made.value)))
const known = useQuery(
  computed(() => recognisedQuery(id.value, made.value, Boolean(entries.data.value?.length))),
)
const rows = computed(() => recognised(entries.data.value ?? [], known.data.value))
const items = useInfiniteQuery(computed(() => itemsQuery(id.value, { kind: 'graded' })))
watch(
  () => items.hasNextPage.value && !items.isFetchingNextPage.value,
  (more) => more && items.fetchNextPage(),
)
const graded = computed(() => items.data.value?.pages.flatMap((page) => page.results) ?? [])
const { data: outline } = useQuery(computed(() => outlineQuery(id.value)))
const asText = (value: unknown) => (typeof value === 'string' ? value : undefined)
const view = computed(() => ({
  kind: asText(route.query.kind),
  words: asText(route.query.words),
  look: asText(route.query.look),
}))
const shown = computed(() => viewed(rows.value, view.value))
const words = ref(view.value.words ?? '')
let typing: ReturnType<typeof setTimeout> | undefined
watch(words, (now) => {
  clearTimeout(typing)
  typing = setTimeout(
    () => router.replace({ query: { ...route.query, words: now || undefined } }),
    250,
  )
})
const chosen = ref<string[]>([])
const entry = computed(() => rows.value.find((row) => row.id === route.query.entry))
const look = (which: string) => router.replace({ query: { ...route.query, entry: which } })
const toggle = (name: 'kind' | 'look', value: string) => ({
  query: { ...route.query, [name]: route.query[name] === value ? undefined : value },
})
const review = computed(
  () => rows.value.filter((row) => row.group === 'review' && row.kind === 'folder').length,
)
const attention = computed(() => rows.value.filter(needsLook).length)
const everything = () =>
  (chosen.value = shown.value
    .filter((row) => row.kind !== 'folder' && !row.blocked && row.group !== 'beside')
    .map((row) => row.id))
const panel = ref<'' | 'rename' | 'undo'>('')
const jobId = ref<string>()
const doing = ref(t('content.import.bringing_in'))
const { job, running } = useJob(jobId, id)
const { job: reading } = useJob(
  computed(() =>
    imported.value && !ENDED.includes(imported.value.job.state) ? imported.value.job.id : undefined,
  ),
  id,
)
const questions = ref<Record<string, number[]>>({})
const {
  folder,
  treatment,
  plan,
  error: trouble,
  busy,
  bring,
  write,
  written,
} = useBringing(id, made, chosen, questions, (begun, what) => {
  jobId.value = begun
  doing.value = what
})
const stop = useMutation({
  mutationFn: () =>
    answered(
      api.POST('/api/v1/pairings/{pairing_pk}/imports/{id}/stop', {
        params: { path: { pairing_pk: id.value, id: made.value } },
      }),
    ),
})
const findings = computed(
  () =>
    (imported.value?.findings ?? []) as Schemas['Import']['findings'] &
      { level: string; message: string; remedy: string }[],
)
</script>

<template>
  <LoadingNote v-if="isPending" :what="$t('content.import.the_import')" />
  <ProblemNote v-else-if="error" :error="error" />
  <div v-else-if="imported">
    <div class="head">
      <div class="grow">
        <p class="soft">
          <RouterLink :to="{ name: 'content', params: { pairing: id } }">{{
            $t('content.import.content')
          }}</RouterLink>
          {{ $t('content.import.cartridge') }}
        </p>
        <h2 class="name">{{ imported.title || imported.filename }}</h2>
        <p class="soft">
          {{
            imported.source === 'catalogue'
              ? $t('content.import.the_catalogue_of', {
                  publisher: about?.course.publisher ?? $t('content.import.the_publisher'),
                })
              : $t('content.import.common_cartridge', {
                  version: imported.version || $t('content.import.of_unknown_version'),
                  profile: imported.profile ? `, ${imported.profile}` : '',
                })
          }}; {{ imported.job.message }}
        </p>
        <MoreBelow
          v-if="findings.length"
          :title="
            $t('content.import.in_the_package', {
              finding: $t('count.findings', findings.length),
            })
          "
        >
          <ul>
            <li v-for="(each, number) in findings" :key="number">
              <strong :class="each.level">{{ stateName('level', each.level) }}</strong>
              {{ each.message }}
              <span class="soft">{{ each.remedy }}</span>
            </li>
          </ul>
        </MoreBelow>
        <NButton
          v-if="imported.standing && about?.may_change && !running"
          size="small"
          @click="panel = 'undo'"
          >{{ $t('content.import.take_out_again') }}</NButton
        >
      </div>
      <ImportFigure v-if="rows.length" v-bind="sides(rows)" />
    </div>
    <JobNote
      v-if="reading && !ENDED.includes(reading.state)"
      :job="reading"
      :doing="$t('content.import.reading')"
    />
    <JobNote v-if="job" :job="job" :doing="doing" />
    <p v-if="running && doing === t('content.import.bringing_in')">
      <NButton size="small" :loading="stop.isPending.value" @click="stop.mutate()">{{
        $t('content.import.stop')
      }}</NButton>
    </p>
    <p v-if="written">
      <a :href="written.href" download>{{ $t('content.import.save', { name: written.name }) }}</a>{{
        $t('content.import.then_upload_it_in_the')
      }}
    </p>
    <UndoPanel
      v-if="panel === 'undo'"
      :pairing="id"
      :made="made"
      @close="panel = ''"
      @begun="
        (begun) => {
          jobId = begun
          doing = t('content.import.taking_out')
        }
      "
    />
    <RenamePanel
      v-if="panel === 'rename' && chosen.length"
      :pairing="id"
      :made="made"
      :chosen="chosen"
      @close="panel = ''"
    />
    <LoadingNote v-if="entries.isPending.value" :what="$t('content.import.the_outline')" />
    <ProblemNote
      v-else-if="entries.error.value"
      :error="entries.error.value"
      @again="entries.refetch()"
    />
    <EmptyNote v-else-if="!rows.length" :title="$t('content.import.nothing_to_choose_from')">
      <p>
        {{
          imported.job.state === 'failed'
            ? `${imported.job.message} ${imported.job.remedy}`
            : reading
              ? $t('content.import.it_is_being_read')
              : $t('content.import.there_is_nothing_in_it')
        }}
      </p>
    </EmptyNote>
    <template v-else>
      <div class="row tools">
        <NInput
          v-model:value="words"
          size="small"
          clearable
          :placeholder="$t('content.import.search_titles')"
          :input-props="{ 'aria-label': $t('content.import.search_titles') }"
          style="max-width: 14rem"
        />
        <nav class="row kinds" :aria-label="$t('content.import.which_entries')">
          <RouterLink
            v-for="[kind, count] in kindCounts(rows)"
            :key="kind"
            :to="toggle('kind', kind)"
            replace
            :class="{ on: view.kind === kind }"
            >{{ kindName(kind) }} {{ count }}</RouterLink
          >
          <RouterLink
            v-if="attention"
            :to="toggle('look', 'attention')"
            replace
            class="look"
            :class="{ on: view.look === 'attention' }"
            >{{ $t('content.import.look_at', { attention }) }}</RouterLink
          >
        </nav>
        <span class="push row"
          ><NButton size="small" @click="everything">{{
            $t('content.import.choose_all_shown')
          }}</NButton
          ><NButton size="small" :disabled="!chosen.length" @click="chosen = []">{{
            $t('content.import.none')
          }}</NButton
          ><NButton
            v-if="about?.may_change"
            size="small"
            :disabled="!chosen.length"
            @click="panel = 'rename'"
            >{{ $t('content.import.rename', { chosen: chosen.length || '' }) }}</NButton
          ></span
        >
      </div>
      <div class="panes" :class="{ both: entry }">
        <section class="tree" :aria-label="$t('content.import.what_is_in_the_package')">
          <EntryTree
            v-model="chosen"
            :rows="shown"
            :all="rows"
            :zone="zone"
            :open="entry?.id"
            @look="look"
          />
          <p v-if="!shown.length" class="soft">
            {{ $t('content.import.no_entry_fits_this_view') }}
          </p>
        </section>
        <aside v-if="entry" class="seen">
          <NButton
            class="close"
            size="tiny"
            @click="router.replace({ query: { ...route.query, entry: undefined } })"
            >{{ $t('content.import.close') }}</NButton><EntryPreview
            v-model:questions="questions"
            :pairing="id"
            :made="made"
            :entry="entry"
            :graded="graded"
            :zone="zone"
            :may-change="about?.may_change ?? false"
          />
        </aside>
      </div>
      <BringBar
        v-model:folder="folder"
        v-model:treatment="treatment"
        :chosen="chosen.length"
        :plan="plan"
        :outline="outline ?? []"
        :title="imported.title"
        :error="trouble"
        :busy="busy || running"
        :may-change="about?.may_change ?? false"
        :review="review"
        @bring="bring"
        @write="write"
      />
    </template>
  </div>
</template>

<style scoped>
.head {
  display: flex;
  gap: 1.4rem;
  align-items: flex-start;
  margin-bottom: 0.8rem;
  flex-wrap: wrap;
}
.grow {
  flex: 1 1 20rem;
}
.name {
  font-size: 1.3rem;
}
.tools {
  margin-bottom: 0.7rem;
}
.kinds a {
  padding: 0.1rem 0.65rem;
  border-radius: 999px;
  text-decoration: none;
  border: 1px solid var(--rule);
  color: var(--ink);
  font-size: 0.88rem;
}
.kinds a.on {
  background: var(--both-wash);
  border-color: var(--both);
  font-weight: 600;
}
.kinds a.look {
  border-color: var(--alarm);
  color: var(--alarm);
}
.panes {
  display: grid;
  gap: 1.2rem;
}
.panes.both {
  grid-template-columns: minmax(0, 1.35fr) minmax(0, 1fr);
}
.tree {
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
.error {
  color: var(--alarm);
}
.warning {
  color: var(--left);
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
