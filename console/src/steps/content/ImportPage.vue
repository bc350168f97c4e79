<script setup lang="ts">
import { useMutation, useQuery } from '@tanstack/vue-query'
import { NButton } from 'naive-ui/es/button'
import { computed, ref, toRef } from 'vue'
import { answered, api } from '@/api/client'
import EmptyNote from '@/parts/EmptyNote.vue'
import { ENDED, useJob } from '@/parts/job'
import JobNote from '@/parts/JobNote.vue'
import KeptNote from '@/parts/KeptNote.vue'
import LoadingNote from '@/parts/LoadingNote.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import { useKept } from '@/parts/useKept'
import { pairingQuery } from '@/steps/pair/queries'
import { t } from '@/words'
import BringBar from './BringBar.vue'
import { type Doing, useBringing } from './bringing'
import EntryTools from './EntryTools.vue'
import ImportHead from './ImportHead.vue'
import ImportPanes from './ImportPanes.vue'
import { importQuery, outlineQuery } from './queries'
import RenamePanel from './RenamePanel.vue'
import UndoPanel from './UndoPanel.vue'
import { useEntries } from './useEntries'

const props = defineProps<{ pairing: string; import: string }>()
const id = toRef(props, 'pairing')
const made = toRef(props, 'import')
const { data: about } = useQuery(computed(() => pairingQuery(id.value)))
const zone = computed(() => about.value?.shell.timezone ?? 'UTC')
const mayChange = computed(() => about.value?.may_change ?? false)
const {
  data: imported,
  error,
  isPending,
} = useQuery(computed(() => importQuery(id.value, made.value)))
const { entries, rows, graded, view, words, shown, review, attention, entry, look, toggle } =
  useEntries(id, made)
const { data: outline } = useQuery(computed(() => outlineQuery(id.value)))
const chosen = ref<string[]>([])
const everything = () =>
  (chosen.value = shown.value
    .filter((row) => row.kind !== 'folder' && !row.blocked && row.group !== 'beside')
    .map((row) => row.id))
const panel = ref<'' | 'rename' | 'undo'>('')
const jobId = ref<string>()
const DOING: Record<Doing, string> = {
  bringing: t('content.import.bringing_in'),
  writing: t('content.bringing.writing'),
  taking: t('content.import.taking_out'),
}
const doing = ref<Doing>('bringing')
const { job, running } = useJob(jobId, id)
const { job: reading } = useJob(
  computed(() =>
    imported.value && !ENDED.includes(imported.value.job.state) ? imported.value.job.id : undefined,
  ),
  id,
)
const questions = ref<Record<string, number[]>>({})
const begun = (job: string, what: Doing) => {
  jobId.value = job
  doing.value = what
}
const {
  folder,
  treatment,
  plan,
  error: trouble,
  busy,
  bring,
  write,
  written,
} = useBringing(id, made, chosen, questions, begun)
const kept = useKept(
  `import.${props.import}`,
  () =>
    chosen.value.length
      ? { chosen: chosen.value, folder: folder.value, treatment: treatment.value }
      : undefined,
  (was) => {
    chosen.value = was.chosen
    folder.value = was.folder
    treatment.value = was.treatment
  },
)
const stop = useMutation({
  mutationFn: () =>
    answered(
      api.POST('/api/v1/pairings/{pairing_pk}/imports/{id}/stop', {
        params: { path: { pairing_pk: id.value, id: made.value } },
      }),
    ),
})
</script>

<template>
  <LoadingNote v-if="isPending" :what="$t('content.import.the_import')" />
  <ProblemNote v-else-if="error" :error="error" />
  <div v-else-if="imported">
    <ImportHead
      :pairing="id"
      :imported="imported"
      :publisher="about?.course.publisher"
      :rows="rows"
      :undoable="imported.standing && mayChange && !running"
      @undo="panel = 'undo'"
    />
    <JobNote
      v-if="reading && !ENDED.includes(reading.state)"
      :job="reading"
      :doing="$t('content.import.reading')"
    />
    <JobNote v-if="job" :job="job" :doing="DOING[doing]" />
    <p v-if="running && doing === 'bringing'">
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
      @begun="(job) => begun(job, 'taking')"
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
      <KeptNote v-if="kept" @over="chosen = []" />
      <EntryTools
        v-model:words="words"
        :rows="rows"
        :view="view"
        :attention="attention"
        :chosen="chosen.length"
        :may-change="mayChange"
        :toggle="toggle"
        @all="everything"
        @none="chosen = []"
        @rename="panel = 'rename'"
      />
      <ImportPanes
        v-model="chosen"
        v-model:questions="questions"
        :pairing="id"
        :made="made"
        :rows="rows"
        :shown="shown"
        :entry="entry"
        :graded="graded"
        :zone="zone"
        :may-change="mayChange"
        @look="look"
      />
      <BringBar
        v-model:folder="folder"
        v-model:treatment="treatment"
        :chosen="chosen.length"
        :plan="plan"
        :outline="outline ?? []"
        :title="imported.title"
        :error="trouble"
        :busy="busy || running"
        :may-change="mayChange"
        :review="review"
        @bring="bring"
        @write="write"
      />
    </template>
  </div>
</template>
