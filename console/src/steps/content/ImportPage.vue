<script setup lang="ts">
import { NButton } from 'naive-ui/es/button'
import { ref, toRef } from 'vue'
import AfterReading from '@/parts/AfterReading.vue'
import { ENDED } from '@/parts/job'
import JobNote from '@/parts/JobNote.vue'
import KeptNote from '@/parts/KeptNote.vue'
import BringBar from './BringBar.vue'
import EntryTools from './EntryTools.vue'
import ImportHead from './ImportHead.vue'
import ImportPanes from './ImportPanes.vue'
import RenamePanel from './RenamePanel.vue'
import UndoPanel from './UndoPanel.vue'
import { useEntries } from './useEntries'
import { useImporting } from './useImporting'

const props = defineProps<{ pairing: string; import: string }>()
const id = toRef(props, 'pairing')
const made = toRef(props, 'import')
const { entries, rows, graded, view, words, shown, review, attention, entry, look, toggle } =
  useEntries(id, made)
const panel = ref<'' | 'rename' | 'undo'>('')
const {
  about,
  zone,
  mayChange,
  imported,
  reading,
  beingRead,
  outline,
  chosen,
  everything,
  questions,
  folder,
  treatment,
  plan,
  trouble,
  busy,
  bring,
  write,
  written,
  job,
  running,
  doing,
  doingNow,
  begun,
  stop,
  kept,
} = useImporting(id, made, shown)
</script>

<template>
  <AfterReading :reading="reading" :what="$t('content.import.the_import')">
    <div v-if="imported">
      <ImportHead
        :pairing="id"
        :imported="imported"
        :publisher="about?.course.publisher"
        :rows="rows"
        :undoable="imported.standing && mayChange && !running"
        @undo="panel = 'undo'"
      />
      <JobNote
        v-if="beingRead && !ENDED.includes(beingRead.state)"
        :job="beingRead"
        :doing="$t('content.import.reading')"
      />
      <JobNote v-if="job" :job="job" :doing="doingNow" />
      <p v-if="running && doing === 'bringing'">
        <NButton size="small" :loading="stop.isPending.value" @click="stop.mutate()">{{
          $t('content.import.stop')
        }}</NButton>
      </p>
      <p v-if="written">
        <a :href="written.href" download>{{
          $t('content.import.save', { name: written.name })
        }}</a>{{ $t('content.import.then_upload_it_in_the') }}
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
      <AfterReading
        :reading="entries"
        :what="$t('content.import.the_outline')"
        :none="!rows.length && $t('content.import.nothing_to_choose_from')"
        :none-means="
          imported.job.state === 'failed'
            ? `${imported.job.message} ${imported.job.remedy}`
            : beingRead
              ? $t('content.import.it_is_being_read')
              : $t('content.import.there_is_nothing_in_it')
        "
      >
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
      </AfterReading>
    </div>
  </AfterReading>
</template>
