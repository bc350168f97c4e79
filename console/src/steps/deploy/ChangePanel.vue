<script setup lang="ts">
import ChooseOne from '@/parts/ChooseOne.vue'
import WhenField from '@/parts/WhenField.vue'
import { NButton } from 'naive-ui/es/button'
import { NInput } from 'naive-ui/es/input'
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import LoadingNote from '@/parts/LoadingNote.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import { type Change, sentencesOf } from './changing'
import { useChange } from './useChange'
import { t } from '@/words'

const props = defineProps<{
  pairing: string
  placements: Schemas['Placement'][]
  folders: string[]
  categories: string[]
  zone: string
}>()
const emit = defineEmits<{ close: []; begun: [rollouts: Schemas['WholeRollout'][]] }>()
const ways: { value: Change['way']; label: string }[] = [
  { value: 'hide', label: t('deploy.change.hide_them_from_learners') },
  { value: 'show', label: t('deploy.change.show_them_to_learners') },
  { value: 'from', label: t('deploy.change.show_them_from_a_date') },
  { value: 'rename', label: t('deploy.change.rename_them_by_a_pattern') },
  { value: 'move', label: t('deploy.change.move_them_to_a_folder') },
  { value: 'category', label: t('deploy.change.change_their_category') },
]
const { way, value, plan, error, pending, go } = useChange(props, (rollouts) => {
  emit('begun', rollouts)
  emit('close')
})
const rows = computed(
  () => plan.value?.shells[0]?.rows.filter((row) => row.action === 'change') ?? [],
)
const options = computed(() =>
  (way.value === 'move' ? props.folders : props.categories).map((each) => ({
    value: each,
    label: each,
  })),
)
</script>

<template>
  <section class="sheet" aria-labelledby="change">
    <div class="row">
      <h2 id="change">
        {{ $t('deploy.change.change', { link: $t('count.links', placements.length) }) }}
      </h2>
      <NButton class="push" size="small" @click="$emit('close')">{{
        $t('deploy.change.close')
      }}</NButton>
    </div>
    <div class="row said">
      <ChooseOne
        v-model:value="way"
        class="field"
        size="medium"
        :options="ways"
        :label="$t('deploy.change.what')"
      />
      <ChooseOne
        v-if="way === 'move' || way === 'category'"
        v-model:value="value"
        class="field"
        filterable
        tag
        :options="options"
        :placeholder="
          way === 'move' ? $t('deploy.change.folder_or_the_name_of') : $t('deploy.change.category')
        "
        size="medium"
        :label="$t(way === 'move' ? 'deploy.plan_table.folder' : 'catalogue.category')"
      />
      <NInput
        v-else-if="way === 'rename'"
        v-model:value="value"
        class="field"
        :input-props="{ 'aria-label': $t('deploy.how.pattern') }"
      />
      <!-- A day and an hour of the course, whatever the zone of who says it. -->
      <WhenField
        v-else-if="way === 'from'"
        v-model:value="value"
        kind="datetime"
        :label="$t('deploy.change.shown_from_in_the_courses', { value: zone })"
      />
    </div>
    <p v-if="way === 'rename'" class="soft">
      {{ $t('deploy.change.you_can_use_and') }}
    </p>
    <LoadingNote v-if="pending" :what="$t('deploy.change.what_would_change')" />
    <ProblemNote :error="error" />
    <template v-if="plan">
      <ul v-if="rows.length">
        <li v-for="row in rows.slice(0, 6)" :key="row.item">
          {{ sentencesOf(row, zone) }}
        </li>
        <li v-if="rows.length > 6" class="soft">
          {{ $t('deploy.change.and_more', { rows: rows.length - 6 }) }}
        </li>
      </ul>
      <p v-else class="soft">{{ $t('deploy.change.all_of_them_are_like') }}</p>
      <NButton
        v-if="rows.length"
        type="primary"
        :loading="go.isPending.value"
        @click="go.mutate()"
        >{{ $t('deploy.change.change', { link: $t('count.links', rows.length) }) }}</NButton
      >
    </template>
  </section>
</template>

<style scoped>
section {
  margin-bottom: 1rem;
}
.said {
  margin-bottom: 0.6rem;
}
.field {
  max-width: 22rem;
}
ul {
  margin: 0 0 0.8rem;
  padding-left: 1.1rem;
}
</style>
