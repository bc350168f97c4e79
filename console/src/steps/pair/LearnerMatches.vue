<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { NButton } from 'naive-ui/es/button'
import { computed } from 'vue'
import { answered, api } from '@/api/client'
import LoadingNote from '@/parts/LoadingNote.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import { matchesQuery } from './queries'

const props = defineProps<{ pairing: string; mayChange: boolean }>()
const client = useQueryClient()
const { data: found, error, isPending } = useQuery(computed(() => matchesQuery(props.pairing)))
const again = () => client.invalidateQueries({ queryKey: ['pairing', props.pairing] })
const confirm = useMutation({
  mutationFn: (body: { student: string; learner: string }) =>
    answered(
      api.POST('/api/v1/pairings/{pairing_pk}/matches', {
        params: { path: { pairing_pk: props.pairing } },
        body,
      }),
    ),
  onSuccess: again,
})
const undo = useMutation({
  mutationFn: (id: number) =>
    answered(
      api.DELETE('/api/v1/pairings/{pairing_pk}/matches/{id}', {
        params: { path: { pairing_pk: props.pairing, id } },
      }),
    ),
  onSuccess: again,
})
</script>

<template>
  <LoadingNote v-if="isPending" what="both sides' learners" />
  <ProblemNote v-else-if="error" :error="error" />
  <template v-else-if="found">
    <p v-if="!found.open.length" class="soft">
      Every account at the publisher has its learner in the shell.
    </p>
    <ul>
      <li v-for="account in found.open" :key="account.student">
        <p>
          <strong class="left-ink">{{ account.name }}</strong>
          <span class="soft">{{ account.email }}</span> is registered at the publisher; the shell
          knows no such address.
        </p>
        <div v-for="each in account.candidates" :key="each.learner.id" class="row candidate">
          <span
            >May be <strong class="right-ink">{{ each.learner.name }}</strong>
            <span class="soft">{{ each.learner.email }} · {{ each.why }}</span></span
          >
          <NButton
            v-if="mayChange"
            class="push"
            size="small"
            :loading="confirm.isPending.value"
            @click="confirm.mutate({ student: account.student, learner: each.learner.id })"
            >The same person<span class="sr-only"
              >: {{ account.name }} is {{ each.learner.name }}</span
            ></NButton
          >
        </div>
        <p v-if="!account.candidates.length" class="soft">
          Nobody in the shell is like them; perhaps they dropped the course.
        </p>
      </li>
      <li v-for="match in found.confirmed" :key="match.id" class="row">
        <span
          ><strong class="left-ink">{{ match.name }}</strong>
          <span class="soft">{{ match.email }}</span> is
          <strong class="right-ink">{{ match.learner.name }}</strong>, as
          {{ match.confirmed_by || 'somebody' }} said.</span
        >
        <NButton v-if="mayChange" class="push" size="small" @click="undo.mutate(match.id)"
          >Take back<span class="sr-only">
            that {{ match.name }} is {{ match.learner.name }}</span
          ></NButton
        >
      </li>
    </ul>
    <ProblemNote :error="confirm.error.value ?? undo.error.value" />
  </template>
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
