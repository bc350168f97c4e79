<script setup lang="ts">
import { NTable } from 'naive-ui/es/table'
import { NCheckbox } from 'naive-ui/es/checkbox'
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { NInput } from 'naive-ui/es/input'
import { computed, nextTick, ref, toRef, watch } from 'vue'
import { useRouter } from 'vue-router'
import { answered, api, type Schemas } from '@/api/client'
import EmptyNote from '@/parts/EmptyNote.vue'
import LoadingNote from '@/parts/LoadingNote.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import AgreeBox from './AgreeBox.vue'
import CourseRow from './CourseRow.vue'
import { consentQuery, coursesQuery, shellsQuery, titlesQuery } from './queries'
import TitleList from './TitleList.vue'

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
      {{
        $t('pair.choose_course.which_homework_course_belongs_to', {
          shell: about ? `${about.label} ${about.title}` : $t('pair.choose_course.this_shell'),
        })
      }}
    </h1>
    <p class="soft">
      {{ $t('pair.choose_course.the_best_fitting_first_pairing') }}
    </p>
    <AgreeBox
      v-if="chosen"
      v-model:name="name"
      :shell="shellId"
      :label="about?.label"
      :words="chosen.words"
      :agreed="consent?.agreed ?? false"
      :made="chosen.way !== 'course'"
      :busy="pair.isPending.value"
      @agree="pair.mutate(chosen)"
      @close="chosen = undefined"
    />
    <ProblemNote :error="pair.error.value" />
    <div class="row search">
      <label for="words" class="sr-only">{{
        $t('pair.choose_course.search_by_title_author_isbn')
      }}</label>
      <NInput
        v-model:value="words"
        clearable
        :placeholder="$t('pair.choose_course.search_by_title_author_isbn')"
        :input-props="{ id: 'words', type: 'search' }"
      />
      <NCheckbox v-model:checked="mine" class="mine">{{
        $t('pair.choose_course.only_mine')
      }}</NCheckbox>
    </div>
    <LoadingNote v-if="isPending" :what="$t('pair.choose_course.the_publishers_courses')" />
    <ProblemNote v-else-if="error" :error="error" @again="refetch()" />
    <EmptyNote
      v-else-if="!courses?.results.length"
      :title="$t('pair.choose_course.no_homework_course_fits')"
    >
      <p>
        {{
          words || mine
            ? $t('pair.choose_course.try_fewer_words_or_not')
            : $t('pair.choose_course.the_publisher_lists_no_course')
        }}
      </p>
    </EmptyNote>
    <NTable :bordered="false" v-else class="plain stack">
      <thead>
        <tr>
          <th scope="col">{{ $t('pair.choose_course.homework_course') }}</th>
          <th scope="col">{{ $t('pair.choose_course.code') }}</th>
          <th scope="col">{{ $t('pair.choose_course.term') }}</th>
          <th scope="col">{{ $t('pair.choose_course.learners') }}</th>
          <th scope="col">{{ $t('pair.choose_course.why') }}</th>
          <th scope="col">
            <span class="sr-only">{{ $t('pair.choose_course.choose') }}</span>
          </th>
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
    </NTable>
    <p v-for="each in again?.unread" :key="each.publisher" class="unread">
      {{
        $t('pair.choose_course.could_not_be_read_what', {
          publisher: each.publisher,
          message: each.message,
          remedy: each.remedy,
        })
      }}
    </p>
    <p v-if="reading" class="soft" role="status">
      {{ $t('pair.choose_course.asking_the_publishers_whether_there') }}
    </p>
    <p v-if="courses?.next" class="soft">
      {{ $t('pair.choose_course.there_are_more_type_a') }}
    </p>
    <TitleList
      v-if="titles?.results.length"
      :titles="titles.results"
      @choose="(title, what) => choose('title', title, what)"
    />
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
.unread {
  color: var(--alarm);
}
</style>
