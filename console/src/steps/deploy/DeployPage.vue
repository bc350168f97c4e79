<script setup lang="ts">
import { ref, toRef } from 'vue'
import { RouterLink } from 'vue-router'
import AfterReading from '@/parts/AfterReading.vue'
import KeptNote from '@/parts/KeptNote.vue'
import MoreBelow from '@/parts/MoreBelow.vue'
import BothTrees from './BothTrees.vue'
import FolderTable from './FolderTable.vue'
import HowPanel from './HowPanel.vue'
import ItemTable from './ItemTable.vue'
import PlanBar from './PlanBar.vue'
import RolloutNote from './RolloutNote.vue'
import SectionsPanel from './SectionsPanel.vue'
import { useDeploying } from './useDeploying'

const props = defineProps<{ pairing: string }>()
const id = toRef(props, 'pairing')
const each = ref(false)
const several = ref(false)
const {
  about,
  zone,
  items,
  rows,
  changed,
  categories,
  chosen,
  units,
  sections,
  into,
  place,
  how,
  shift,
  folders,
  wishes,
  plans,
  error,
  busy,
  firstReadings,
  begun,
  deploy,
  write,
  kept,
  startOver,
} = useDeploying(id)
</script>

<template>
  <AfterReading
    :reading="items"
    :what="$t('deploy.deploy.the_items')"
    :none="!rows.length && $t('deploy.deploy.nothing_to_deploy_yet')"
    ><template #none>
      <p>
        <RouterLink :to="{ name: 'content', params: { pairing: id } }">{{
          $t('deploy.deploy.import_the_courses_content')
        }}</RouterLink>
        {{ $t('deploy.deploy.first') }}
      </p>
    </template>
    <div>
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
  </AfterReading>
</template>

<style scoped>
.sheet {
  margin-top: 1rem;
}
.each {
  margin-top: 0.7rem;
}
</style>
