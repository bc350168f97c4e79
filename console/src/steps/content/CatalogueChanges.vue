<script setup lang="ts">
import { NTable } from 'naive-ui/es/table'
import { NButton } from 'naive-ui/es/button'
import { toRef } from 'vue'
import { inZone } from '@/logic/dates'
import ProblemNote from '@/parts/ProblemNote.vue'
import { t } from '@/words'
import { useCatalogueChanges } from './useCatalogueChanges'

const props = defineProps<{ pairing: string; zone: string; mayChange: boolean }>()
const id = toRef(props, 'pairing')
const { last, refresh, take } = useCatalogueChanges(id)
const WORDS: Record<string, string> = {
  new: t('content.catalogue_changes.new'),
  renamed: t('content.catalogue_changes.renamed'),
  moved: t('content.catalogue_changes.moved'),
  points: t('content.catalogue_changes.other_points'),
  date: t('content.catalogue_changes.other_date'),
  withdrawn: t('content.catalogue_changes.withdrawn'),
  back: t('content.catalogue_changes.back_again'),
}
const written = (kind: string, value: string) =>
  kind === 'date'
    ? inZone(value, props.zone) || t('content.catalogue_changes.no_date')
    : value || t('content.catalogue_changes.none')
</script>

<template>
  <section class="sheet" aria-labelledby="catalogue">
    <div class="row">
      <h2 id="catalogue">{{ $t('content.catalogue_changes.at_the_publisher') }}</h2>
      <span class="soft">{{
        last
          ? $t('content.catalogue_changes.read_graded_items', {
              at: inZone(last.at, zone),
              items: last.items,
              words: last.words,
            })
          : $t('content.catalogue_changes.read_every_night_not_yet')
      }}</span>
      <NButton
        v-if="mayChange"
        class="push"
        :loading="take.isPending.value"
        @click="take.mutate()"
        >{{ $t('content.catalogue_changes.choose_from_the_catalogue') }}</NButton
      >
      <NButton v-if="mayChange" :loading="refresh.isPending.value" @click="refresh.mutate()">{{
        $t('content.catalogue_changes.look_for_changes_now')
      }}</NButton>
    </div>
    <ProblemNote :error="refresh.error.value ?? take.error.value" />
    <NTable :bordered="false" v-if="last?.changes.length" class="plain stack">
      <thead>
        <tr>
          <th scope="col">{{ $t('content.catalogue_changes.item') }}</th>
          <th scope="col">{{ $t('content.catalogue_changes.change') }}</th>
          <th scope="col">{{ $t('content.catalogue_changes.before') }}</th>
          <th scope="col">{{ $t('content.catalogue_changes.now') }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="change in last.changes" :key="change.key + change.kind">
          <td class="wide">{{ change.title }}</td>
          <td :data-label="$t('content.catalogue_changes.change')">
            <span class="left-ink">{{ WORDS[change.kind] ?? change.kind }}</span>
          </td>
          <td
            :data-label="$t('content.catalogue_changes.before')"
            :class="{ none: !change.before }"
          >
            {{ change.before ? written(change.kind, change.before) : '–' }}
          </td>
          <td :data-label="$t('content.catalogue_changes.now')" :class="{ none: !change.after }">
            {{ change.after ? written(change.kind, change.after) : '–' }}
          </td>
        </tr>
      </tbody>
    </NTable>
  </section>
</template>

<style scoped>
h2 {
  margin: 0;
}
</style>
