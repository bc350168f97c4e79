<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { NButton } from 'naive-ui/es/button'
import { NInput } from 'naive-ui/es/input'
import { computed, nextTick, ref, toRef, watch } from 'vue'
import { useRouter } from 'vue-router'
import { answered, api, type Schemas } from '@/api/client'
import EmptyNote from '@/parts/EmptyNote.vue'
import LoadingNote from '@/parts/LoadingNote.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import ConsentPanel from './ConsentPanel.vue'
import CourseRow from './CourseRow.vue'
import { consentQuery, coursesQuery, shellsQuery, titlesQuery } from './queries'

type Way = 'course' | 'title' | 'copy_of' | 'section_of'
const props = defineProps<{ shell: string }>()
const shellId = toRef(props, 'shell')
const router = useRouter()
const client = useQueryClient()
const words = ref('')
const mine = ref(false)
const name = ref('')
const chosen = ref<{ way: Way; id: string; words: string; share: boolean }>()
const { data: shells } = useQuery(shellsQuery())
const about = computed(() => shells.value?.results.find((each) => each.id === shellId.value))
const { data: consent } = useQuery(computed(() => consentQuery(shellId.value)))
const {
  data: courses,
  error,
  isPending,
  refetch,
} = useQuery(computed(() => coursesQuery(shellId.value, words.value.trim(), mine.value)))
// The list stands at once; a course that was just made at the publisher comes with the second reading.
const {
  data: again,
  isFetching: reading,
  isSuccess: read,
} = useQuery({
  queryKey: ['read courses again'],
  queryFn: () =>
    answered(api.GET('/api/v1/courses', { params: { query: { refresh: true, limit: 1 } } })),
  staleTime: 60_000,
})
watch(read, (now) => now && client.invalidateQueries({ queryKey: ['courses'] }))
const { data: titles } = useQuery(computed(() => titlesQuery(words.value.trim())))
const pair = useMutation({
  mutationFn: ({ way, id, share }: { way: Way; id: string; share?: boolean }) =>
    answered(
      api.POST('/api/v1/pairings', {
        body: {
          shell: shellId.value,
          [way]: id,
          agree: true,
          share: share ?? false,
          name: way === 'course' ? '' : name.value.trim(),
        } as Schemas['NewPairingRequest'],
      }),
    ),
  onSuccess: async (pairing) => {
    await client.invalidateQueries({ queryKey: ['shells'] })
    await router.push({ name: 'pair', params: { pairing: pairing.id } })
  },
})

/** Pair at once where somebody agreed before; else show first what is read and written. */
async function choose(way: Way, id: string, what: string, share = false) {
  pair.reset()
  if (consent.value?.agreed && way === 'course') return pair.mutate({ way, id, share })
  chosen.value = { way, id, words: what, share }
  await nextTick()
  document.getElementById('agree')?.focus()
}
</script>

<template>
  <div class="page">
    <h1>
      Which homework course belongs to {{ about ? `${about.label} ${about.title}` : 'this shell' }}?
    </h1>
    <p class="soft">
      The best fitting first. Pairing changes nothing in the shell and nothing at the publisher yet.
    </p>
    <section v-if="chosen" class="sheet agree" aria-labelledby="agreement">
      <h2 id="agreement">
        Before {{ about?.label }} is paired with {{ chosen.words
        }}{{ consent?.agreed ? '' : ': your agreement, once' }}
      </h2>
      <ConsentPanel v-if="!consent?.agreed" :shell="shellId" />
      <NInput
        v-if="chosen.way !== 'course'"
        v-model:value="name"
        :maxlength="200"
        placeholder="Its name at the publisher; empty: the title’s"
        :input-props="{ 'aria-label': 'Name of the new course' }"
      />
      <div class="row">
        <NButton
          id="agree"
          type="primary"
          :loading="pair.isPending.value"
          @click="pair.mutate(chosen)"
          >{{ consent?.agreed ? 'Pair them' : 'I agree: pair them' }}</NButton><NButton
          @click="chosen = undefined"
          >Not now</NButton
        ><span class="soft">You can withdraw it at any time under Pair.</span>
      </div>
    </section>
    <ProblemNote :error="pair.error.value" />
    <div class="row search">
      <label for="words" class="sr-only"
        >Search by title, author, ISBN, code, section or term</label
      >
      <NInput
        v-model:value="words"
        clearable
        placeholder="Search by title, author, ISBN, code, section or term"
        :input-props="{ id: 'words', type: 'search' }"
      />
      <label class="mine"><input v-model="mine" type="checkbox" /> only mine</label>
    </div>
    <LoadingNote v-if="isPending" what="the publishers' courses" />
    <ProblemNote v-else-if="error" :error="error" @again="refetch()" />
    <EmptyNote v-else-if="!courses?.results.length" title="No homework course fits">
      <p>
        {{
          words || mine
            ? 'Try fewer words, or not only your own.'
            : 'The publisher lists no course for you; ask the administrator whether its connection works.'
        }}
      </p>
    </EmptyNote>
    <table v-else class="plain stack">
      <thead>
        <tr>
          <th scope="col">Homework course</th>
          <th scope="col">Code</th>
          <th scope="col">Term</th>
          <th scope="col">Learners</th>
          <th scope="col">Why</th>
          <th scope="col"><span class="sr-only">Choose</span></th>
        </tr>
      </thead>
      <tbody>
        <CourseRow
          v-for="course in courses.results"
          :key="course.id"
          :course="course"
          :busy="pair.isPending.value && pair.variables.value?.id === course.id"
          @choose="choose"
        />
      </tbody>
    </table>
    <p v-for="each in again?.unread" :key="each.publisher" class="unread">
      {{ each.publisher }} could not be read; what is shown of it is older. {{ each.message }}
      {{ each.remedy }}
    </p>
    <p v-if="reading" class="soft" role="status">
      Asking the publishers whether there is anything new …
    </p>
    <p v-if="courses?.next" class="soft">
      There are more; type a word of the title, the code or the term.
    </p>
    <template v-if="titles?.results.length">
      <h2 class="titles">Or a new course of an adopted title</h2>
      <ul>
        <li v-for="title in titles.results" :key="title.id" class="row">
          <span
            ><strong class="left-ink">{{ title.title }}</strong>
            <span class="soft">{{
              [title.author, title.isbn, title.publisher].filter(Boolean).join(' · ')
            }}</span></span
          >
          <NButton
            v-if="title.can_create"
            class="push"
            size="small"
            @click="choose('title', title.id, `a new course of ${title.title}`)"
            >Create<span class="sr-only"> a course of {{ title.title }}</span></NButton
          >
          <span v-else class="push soft">{{ title.why_not }}</span>
        </li>
      </ul>
    </template>
  </div>
</template>

<style scoped>
.search {
  flex-wrap: nowrap;
  margin-bottom: 0.8rem;
}
.mine {
  white-space: nowrap;
}
.agree {
  border-color: var(--both);
  border-width: 2px;
  margin-bottom: 1rem;
}
.agree .row {
  margin-top: 0.8rem;
}
.unread {
  color: var(--alarm);
}
.titles {
  margin-top: 1.6rem;
}
ul {
  list-style: none;
  padding: 0;
}
li {
  padding: 0.45rem 0;
  border-bottom: 1px solid var(--rule);
}
</style>
