<script setup lang="ts">
import { I18nT } from 'vue-i18n'
import { NButton } from 'naive-ui/es/button'
import AfterReading from '@/parts/AfterReading.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import { useMatches } from './useMatches'

const props = defineProps<{ pairing: string; mayChange: boolean }>()
const { found, reading, confirm, undo } = useMatches(() => props.pairing)
</script>

<template>
  <AfterReading :reading="reading" :what="$t('match.what')">
    <template v-if="found">
      <p v-if="!found.open.length" class="soft">{{ $t('match.all') }}</p>
      <ul>
        <li v-for="account in found.open" :key="account.student">
          <I18nT keypath="match.unknown" tag="p">
            <template #name
              ><strong class="left-ink">{{ account.name }}</strong></template
            >
            <template #email
              ><span class="soft">{{ account.email }}</span></template
            >
          </I18nT>
          <div v-for="each in account.candidates" :key="each.learner.id" class="row candidate">
            <I18nT keypath="match.may_be" tag="span">
              <template #name
                ><strong class="right-ink">{{ each.learner.name }}</strong></template
              >
              <template #email
                ><span class="soft">{{ each.learner.email }} · {{ each.why }}</span></template
              >
            </I18nT>
            <NButton
              v-if="mayChange"
              class="push"
              size="small"
              :loading="confirm.isPending.value"
              @click="confirm.mutate({ student: account.student, learner: each.learner.id })"
              >{{ $t('match.same')
              }}<span class="sr-only"
                >: {{ $t('match.is', { one: account.name, other: each.learner.name }) }}</span
              ></NButton
            >
          </div>
          <p v-if="!account.candidates.length" class="soft">{{ $t('match.nobody') }}</p>
        </li>
        <li v-for="match in found.confirmed" :key="match.id" class="row">
          <I18nT keypath="match.confirmed" tag="span">
            <template #name
              ><strong class="left-ink">{{ match.name }}</strong></template
            >
            <template #email
              ><span class="soft">{{ match.email }}</span></template
            >
            <template #learner
              ><strong class="right-ink">{{ match.learner.name }}</strong></template
            >
            <template #by>{{ match.confirmed_by || $t('match.somebody') }}</template>
          </I18nT>
          <NButton v-if="mayChange" class="push" size="small" @click="undo.mutate(match.id)"
            >{{ $t('match.unmatch')
            }}<span class="sr-only"
              >: {{ $t('match.is', { one: match.name, other: match.learner.name }) }}</span
            ></NButton
          >
        </li>
      </ul>
      <ProblemNote :error="confirm.error.value ?? undo.error.value" />
    </template>
  </AfterReading>
</template>

<style scoped>
ul {
  list-style: none;
  padding: 0;
  margin: 0;
}
li {
  padding: 0.45rem 0;
  border-bottom: 1px solid var(--rule);
}
li p {
  margin: 0;
}
.candidate {
  padding: 0.25rem 0 0 1rem;
}
</style>
