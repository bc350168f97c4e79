<script setup lang="ts">
import AfterReading from '@/parts/AfterReading.vue'
import WhenField from '@/parts/WhenField.vue'
import { NCheckbox } from 'naive-ui/es/checkbox'
import { toRef } from 'vue'
import { RouterLink } from 'vue-router'
import ProblemNote from '@/parts/ProblemNote.vue'
import { t } from '@/words'
import { useStatement } from './useStatement'

/** May the grades be submitted? What keeps them back comes first, each with where to mend it; it can be printed and signed. */
const props = defineProps<{ pairing: string; mayChange: boolean }>()
const id = toRef(props, 'pairing')
const { said, reading, change } = useStatement(id)
const MARKS: Record<string, string> = { open: '✕', look: '◔', well: '✓' }
const SAY: Record<string, string> = {
  open: t('reconcile.ready.open'),
  look: t('reconcile.ready.look_once'),
  well: t('reconcile.ready.well'),
}
const place = (page: string) => {
  const [path = '', query = ''] = page.split('?')
  return {
    path: `/pairings/${id.value}/${path}`,
    query: Object.fromEntries(new URLSearchParams(query)),
  }
}
</script>

<template>
  <AfterReading :reading="reading" :what="$t('reconcile.ready.whether_the_grades_are_ready')">
    <section v-if="said" :aria-label="$t('reconcile.ready.ready_to_submit_grades')">
      <p class="verdict" :class="{ ready: said.ready }" role="status">
        <strong>{{ said.sentence }}</strong>
      </p>
      <ul>
        <li v-for="line in said.lines" :key="line.what" :class="line.level">
          <span class="mark" aria-hidden="true">{{ MARKS[line.level] }}</span>
          <span
            ><span class="sr-only">{{ SAY[line.level] }}: </span>{{ line.sentence }}
            <RouterLink v-if="line.remedy && line.page" :to="place(line.page)">{{
              line.remedy
            }}</RouterLink><template v-else> {{ line.remedy }}</template></span
          >
        </li>
      </ul>
      <form class="row" @submit.prevent>
        <span>{{ $t('reconcile.ready.grades_are_due_on') }}</span>
        <WhenField
          :disabled="!mayChange"
          clearable
          :value="said.schedule.grades_due"
          @update:value="(day) => change.mutate({ grades_due: day })"
          kind="date"
          :label="$t('reconcile.ready.grades_are_due_on')"
        />
        <NCheckbox
          :checked="said.schedule.nightly"
          :disabled="!mayChange"
          @update:checked="(nightly: boolean) => change.mutate({ nightly })"
          >{{ $t('reconcile.ready.compare_every_night') }}</NCheckbox
        >
      </form>
      <p class="soft small">{{ $t('reconcile.ready.in_the_week_before_the') }}</p>
      <ProblemNote :error="change.error.value" />
    </section>
  </AfterReading>
</template>

<style scoped>
.verdict {
  background: var(--alarm-wash);
  border-radius: 12px;
  padding: 0.6rem 1rem;
  font-size: 1.05rem;
}
.verdict.ready {
  background: var(--both-wash);
}
ul {
  list-style: none;
  padding: 0;
  margin: 0 0 0.8rem;
}
li {
  display: grid;
  grid-template-columns: 1.6rem 1fr;
  padding: 0.4rem 0;
  border-bottom: 1px solid var(--rule);
}
.mark {
  font-weight: 700;
}
.open .mark {
  color: var(--alarm);
}
.look .mark {
  color: var(--left);
}
.well,
.well .mark {
  color: var(--soft);
}
.small {
  font-size: 0.88rem;
}
input[type='date'] {
  font: inherit;
  color: inherit;
  background: var(--sheet);
  border: 1px solid var(--rule);
  border-radius: 6px;
  padding: 0.15rem 0.4rem;
}
</style>
