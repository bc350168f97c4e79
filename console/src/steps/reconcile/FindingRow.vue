<script setup lang="ts">
import { NButton } from 'naive-ui/es/button'
import { computed } from 'vue'
import { RouterLink } from 'vue-router'
import type { Schemas } from '@/api/client'
import SideScores from '@/figures/SideScores.vue'
import { inZone } from '@/logic/dates'
import { t } from '@/words'
import { NAMES_ONE, nothing, remedyWords, type Wanted } from './remedies'

/** A finding: where it is, what each side says, its cause, and a button for each remedy. */
const props = defineProps<{ finding: Schemas['Finding']; zone: string; mayAct: boolean }>()
const emit = defineEmits<{ settle: [wanted: Wanted] }>()
const who = computed(() => [props.finding.learner, props.finding.item].filter(Boolean).join(', '))
/** A score with its points where each side has others: 10 of 20 is not 10 of 25. */
const of = (score: string | null, points: string | null, others: string | null) =>
  score && points && others && points !== others
    ? t('files.file_findings.of', { score, points })
    : score
const settle = (remedy: string, candidate = '') =>
  emit('settle', { ...nothing(), findings: [{ finding: props.finding.id, remedy, candidate }] })
const plain = computed(() => props.finding.remedies.filter((each) => !NAMES_ONE.includes(each)))
const namesOne = computed(() => props.finding.remedies.find((each) => NAMES_ONE.includes(each)))
</script>

<template>
  <li>
    <div class="row">
      <strong
        ><RouterLink
          v-if="finding.scope === 'cell'"
          :to="{ query: { placement: finding.placement, person: finding.person } }"
          >{{ who }}</RouterLink
        ><template v-else>{{ who }}</template></strong
      >
      <span v-if="finding.new" class="new">{{ $t('reconcile.finding_list.new') }}</span>
      <SideScores
        v-if="finding.scope === 'cell'"
        class="push"
        :publisher="of(finding.publisher, finding.publisher_points, finding.gradebook_points)"
        :sent="finding.sent"
        :gradebook="of(finding.gradebook, finding.gradebook_points, finding.publisher_points)"
      />
    </div>
    <p class="soft">
      {{ finding.cause
      }}<em v-if="finding.kept">
        {{
          $t('reconcile.finding_list.kept_as_it_is_since', { kept: inZone(finding.kept, zone) })
        }}</em
      >
    </p>
    <div v-if="mayAct && !finding.kept" class="row">
      <template v-if="namesOne">
        <NButton
          v-for="each in finding.candidates"
          :key="each.key"
          size="tiny"
          @click="settle(namesOne, each.key)"
          >{{ $t('reconcile.finding_list.is', { email: each.name || each.email }) }}
          <span class="soft">&nbsp;{{ each.why }}</span></NButton
        >
      </template>
      <NButton
        v-for="(remedy, place) in plain"
        :key="remedy"
        size="tiny"
        :quaternary="place > 0 || finding.scope === 'learner'"
        @click="settle(remedy)"
        >{{ remedyWords(remedy) }}<span class="sr-only">: {{ who }}</span></NButton
      >
    </div>
  </li>
</template>

<style scoped>
li {
  padding: 0.4rem 0;
  border-bottom: 1px solid var(--rule);
}
.new {
  font-size: 0.78rem;
  font-weight: 700;
  color: var(--both);
  border: 1px solid currentColor;
  border-radius: 999px;
  padding: 0 0.45rem;
}
li p {
  margin: 0.15rem 0 0.3rem;
  font-size: 0.9rem;
}
</style>
