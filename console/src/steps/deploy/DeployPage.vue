<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed, ref, toRef, watch } from 'vue'
import { RouterLink, useRoute } from 'vue-router'
import type { Schemas } from '@/api/client'
import EmptyNote from '@/parts/EmptyNote.vue'
import KeptNote from '@/parts/KeptNote.vue'
import LoadingNote from '@/parts/LoadingNote.vue'
import MoreBelow from '@/parts/MoreBelow.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import { useKept } from '@/parts/useKept'
import { pairingQuery } from '@/steps/pair/queries'
import BothTrees from './BothTrees.vue'
import FolderTable from './FolderTable.vue'
import HowPanel from './HowPanel.vue'
import ItemTable from './ItemTable.vue'
import PlanBar from './PlanBar.vue'
import { useFirstReading } from './reading'
import RolloutNote from './RolloutNote.vue'
import SectionsPanel from './SectionsPanel.vue'
import { HOW, NOWHERE, useSheet } from './sheet'
import { useCatalogue } from './useCatalogue'
import { useSections } from './useSections'

const props = defineProps<{ pairing: string }>()
const id = toRef(props, 'pairing')
const route = useRoute()
const { data: about } = useQuery(computed(() => pairingQuery(id.value)))
const { items, rows, changed, categories } = useCatalogue(id)
const chosen = ref<string[]>(
  String(route.query.chosen ?? '')
    .split(',')
    .filter(Boolean),
)
const begun = ref<Schemas['WholeRollout'][]>([])
const { place, how, shift, sections, folders, wishes, plans, error, busy, again, deploy, write } =
  useSheet(id, chosen, (rollouts) => {
    begun.value = rollouts
    window.scrollTo({ top: 0 })
  })
const firstReadings = useFirstReading(plans, again)
useSections(id, sections)
const kept = useKept(
  `deploy.${props.pairing}`,
  () =>
    chosen.value.length
      ? { chosen: chosen.value, place: place.value, how, shift: shift.value, wishes: wishes.value }
      : undefined,
  (was) => {
    if (!chosen.value.length) chosen.value = was.chosen
    place.value = was.place
    Object.assign(how, was.how)
    shift.value = was.shift
    wishes.value = was.wishes
  },
)
function startOver() {
  chosen.value = []
  wishes.value = {}
  shift.value = 0
  place.value = { ...NOWHERE }
  Object.assign(how, HOW)
}
watch(
  () => items.isSuccess.value && !items.hasNextPage.value,
  (all) => {
    const there = new Set(rows.value.map((item) => item.id))
    if (all) chosen.value = chosen.value.filter((each) => there.has(each)) // some may be gone since
  },
)
const zone = computed(() => about.value?.shell.timezone ?? 'UTC')
const each = ref(false)
const several = ref(false)
const units = computed(() => [
  ...new Set(
    rows.value
      .filter((item) => chosen.value.includes(item.id) && item.unit)
      .map((item) => item.unit),
  ),
])
const into = computed(() => [
  { pairing: id.value, label: about.value?.shell.label ?? '' },
  ...sections.value.filter((each) => each.on),
])
</script>

<template>
  <LoadingNote v-if="items.isPending.value" :what="$t('deploy.deploy.the_items')" />
  <ProblemNote v-else-if="items.error.value" :error="items.error.value" />
  <EmptyNote v-else-if="!rows.length" :title="$t('deploy.deploy.nothing_to_deploy_yet')">
    <p>
      <RouterLink :to="{ name: 'content', params: { pairing: id } }">{{
        $t('deploy.deploy.import_the_courses_content')
      }}</RouterLink>
      {{ $t('deploy.deploy.first') }}
    </p>
  </EmptyNote>
  <div v-else>
    <RolloutNote v-for="rollout in begun" :key="rollout.id" :rollout="rollout" />
    <KeptNote v-if="kept" @over="startOver" />
    <BothTrees
      v-model:chosen="chosen"
      v-model:place="place"
      :pairing="id"
      :items="rows"
      :changed="changed"
      :plan="plans?.[0]"
      :zone="zone"
      :may-change="about?.may_change ?? false"
    />
    <section class="sheet" aria-labelledby="how">
      <h2 id="how">{{ $t('deploy.deploy.how_they_are_to_stand') }}</h2>
      <HowPanel v-model="how" :categories="categories" />
      <MoreBelow
        v-if="chosen.length"
        class="each"
        v-model:open="each"
        :title="$t('deploy.deploy.item_by_item')"
      >
        <template #title>
          {{ $t('deploy.deploy.item_by_item') }}
          <span class="soft">{{ $t('deploy.deploy.another_title_column_category_or') }}</span>
        </template>
        <ItemTable
          v-model="wishes"
          :items="rows"
          :chosen="chosen"
          :rows="plans?.[0]?.rows"
          :notices="plans?.[0]?.notices"
          :categories="categories"
          :zone="zone"
          :on-page="place.into === 'page'"
        />
      </MoreBelow>
    </section>
    <MoreBelow sheet v-model:open="several" :title="$t('deploy.deploy.sections_and_dates')">
      <template #title>
        <h2>
          {{ $t('deploy.deploy.sections_and_dates') }}
          <span class="soft">{{
            sections.length
              ? $t('deploy.deploy.also_into_other_shells_of', { sections: sections.length })
              : $t('deploy.deploy.shift_the_dates_of_this')
          }}</span>
        </h2>
      </template>
      <SectionsPanel
        v-model="sections"
        v-model:shift="shift"
        :own="about?.shell.label ?? ''"
        :plans="plans"
        :readings="firstReadings"
        :chosen="chosen.length"
      />
      <FolderTable
        v-if="place.into === 'unit' && units.length"
        v-model="folders"
        :shells="into"
        :units="units"
        :plans="plans"
      />
    </MoreBelow>
    <PlanBar
      :chosen="chosen.length"
      :plans="plans"
      :error="error"
      :busy="busy"
      :may-change="about?.may_change ?? false"
      @deploy="deploy"
      @write="write"
    />
  </div>
</template>

<style scoped>
.sheet {
  margin-top: 1rem;
}
.each {
  margin-top: 0.7rem;
}
</style>
