<script setup lang="ts">
import { NRadio } from 'naive-ui/es/radio'
import { NButton } from 'naive-ui/es/button'
import type { Schemas } from '@/api/client'
import LoadingNote from '@/parts/LoadingNote.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import { useTakingBack } from './useTakingBack'

const props = defineProps<{ pairing: string; placements: string[] }>()
const emit = defineEmits<{ close: []; begun: [rollout: Schemas['WholeRollout']] }>()
const { scores, look, go, held } = useTakingBack(props, (made) => {
  emit('begun', made)
  emit('close')
})
</script>

<template>
  <section class="sheet" aria-labelledby="back">
    <div class="row">
      <h2 id="back">
        {{ $t('deploy.take_back.take_back', { link: $t('count.links', placements.length) }) }}
      </h2>
      <NButton class="push" size="small" @click="$emit('close')">{{
        $t('deploy.take_back.close')
      }}</NButton>
    </div>
    <LoadingNote v-if="look.isPending.value" :what="$t('deploy.take_back.their_columns')" />
    <ProblemNote :error="look.error.value ?? go.error.value" />
    <template v-if="look.data.value">
      <p>
        {{ $t('deploy.take_back.the_links_go_out_of')
        }}<template v-if="held.length">{{
          $t('deploy.take_back.hold_scores', {
            held: held.length,
            scores: held
              .slice(0, 4)
              .map((each) => `${each.title}: ${each.scores}`)
              .join(', '),
          })
        }}</template
        >.
      </p>
      <div v-if="held.length" class="ways" role="group" aria-labelledby="columns">
        <strong id="columns">{{ $t('deploy.take_back.what_becomes_of_columns_with') }}</strong>
        <NRadio
          :checked="scores === 'keep'"
          :value="'keep'"
          name="scores"
          @update:checked="scores = 'keep'"
          >{{ $t('deploy.take_back.keep_them_in_the_gradebook') }}</NRadio
        >
        <NRadio
          :checked="scores === 'export'"
          :value="'export'"
          name="scores"
          @update:checked="scores = 'export'"
          >{{ $t('deploy.take_back.save_the_scores_as_a') }}</NRadio
        >
        <NRadio
          :checked="scores === 'remove'"
          :value="'remove'"
          name="scores"
          @update:checked="scores = 'remove'"
          >{{ $t('deploy.take_back.remove_them_scores_and_all') }}</NRadio
        >
      </div>
      <NButton type="error" ghost :loading="go.isPending.value" @click="go.mutate()">{{
        $t('deploy.take_back.take_back_2', { placements: placements.length })
      }}</NButton>
    </template>
  </section>
</template>

<style scoped>
section {
  margin-bottom: 1rem;
}
.ways {
  margin: 0 0 0.6rem;
  display: grid;
  gap: 0.2rem;
}
</style>
