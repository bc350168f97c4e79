<script setup lang="ts">
import { NButton } from 'naive-ui/es/button'
import { RouterLink } from 'vue-router'
import AfterReading from '@/parts/AfterReading.vue'
import MoreBelow from '@/parts/MoreBelow.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import CatalogueTree from './CatalogueTree.vue'
import HowPanel from './HowPanel.vue'
import ItemTable from './ItemTable.vue'
import { usePicking } from './usePicking'

const props = defineProps<{ picking: string }>()
const {
  asked,
  about,
  pairing,
  reading,
  items,
  rows,
  chosen,
  how,
  wishes,
  plan,
  hindered,
  give,
  given,
  sentence,
} = usePicking(props.picking)
</script>

<template>
  <div class="page">
    <h1>
      {{
        $t('deploy.pick.add_homework_to', { course: asked?.shell || $t('deploy.pick.the_course') })
      }}
    </h1>
    <AfterReading
      :reading="reading"
      :what="$t('deploy.pick.the_homework_course')"
      :none="!pairing && $t('deploy.pick.this_shell_is_not_paired')"
    >
      <template #none
        ><p>
          <RouterLink :to="{ name: 'shells' }">{{
            $t('deploy.pick.pair_it_with_a_homework')
          }}</RouterLink>{{ $t('deploy.pick.then_begin_again_in', { platform: asked?.platform }) }}
        </p></template
      >
      <AfterReading :reading="items" :what="$t('deploy.pick.the_homework_course')">
        <p class="soft">
          {{ $t('deploy.pick.asks_for_content_nothing_is', { platform: asked?.platform }) }}
        </p>
        <section class="sheet">
          <CatalogueTree
            v-model="chosen"
            :items="rows"
            :changed="new Set()"
            :zone="about?.shell.timezone ?? 'UTC'"
            :single="!asked?.multiple"
          />
        </section>
        <section class="sheet"><HowPanel v-model="how" :categories="[]" picking /></section>
        <MoreBelow v-if="chosen.length" sheet :title="$t('deploy.pick.item_by_item')">
          <ItemTable
            v-model="wishes"
            :items="rows"
            :chosen="chosen"
            :rows="plan?.rows"
            :notices="plan?.notices"
            :categories="[]"
            :zone="about?.shell.timezone ?? 'UTC'"
          />
        </MoreBelow>
        <div class="bar" role="region" :aria-label="$t('deploy.pick.what_will_happen')">
          <ProblemNote :error="give.error.value ?? hindered" />
          <p v-for="(notice, index) in plan?.notices ?? []" :key="index" class="soft">
            {{ notice.message }} {{ notice.remedy }}
          </p>
          <div class="row">
            <p class="sentence" aria-live="polite">{{ sentence }}</p>
            <NButton
              type="primary"
              :disabled="!given.length"
              :loading="give.isPending.value"
              @click="give.mutate()"
              >{{ $t('deploy.pick.add') }}</NButton
            >
          </div>
        </div>
      </AfterReading>
    </AfterReading>
  </div>
</template>

<style scoped>
.sheet {
  margin-bottom: 0.9rem;
}
.bar {
  position: sticky;
  bottom: 0;
  background: var(--sheet);
  border: 1px solid var(--rule);
  border-top: 4px solid var(--both);
  border-radius: 12px 12px 0 0;
  padding: 0.7rem 1.1rem;
}
.sentence {
  margin: 0;
  font-weight: 600;
  flex: 1;
}
</style>
