<script setup lang="ts">
import { NTable } from 'naive-ui/es/table'
import { NCheckbox } from 'naive-ui/es/checkbox'
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
      {{
        $t('pair.choose_course.which_homework_course_belongs_to', {
          shell: about ? `${about.label} ${about.title}` : $t('pair.choose_course.this_shell'),
        })
      }}
    </h1>
    <p class="soft">
      {{ $t('pair.choose_course.the_best_fitting_first_pairing') }}
    </p>
    <section v-if="chosen" class="sheet agree" aria-labelledby="agreement">
      <h2 id="agreement">
        {{
          $t('pair.choose_course.before_is_paired_with', {
            label: about?.label,
            words: chosen.words,
            once: consent?.agreed ? '' : $t('pair.choose_course.your_agreement_once'),
          })
        }}
      </h2>
      <ConsentPanel v-if="!consent?.agreed" :shell="shellId" />
      <NInput
        v-if="chosen.way !== 'course'"
        v-model:value="name"
        :maxlength="200"
        :placeholder="$t('pair.choose_course.its_name_at_the_publisher')"
        :input-props="{ 'aria-label': $t('pair.choose_course.name_of_new') }"
      />
      <div class="row">
        <NButton
          id="agree"
          type="primary"
          :loading="pair.isPending.value"
          @click="pair.mutate(chosen)"
          >{{
            consent?.agreed
              ? $t('pair.choose_course.pair_them')
              : $t('pair.choose_course.i_agree_pair_them')
          }}</NButton><NButton @click="chosen = undefined">{{
          $t('pair.choose_course.not_now')
        }}</NButton
        ><span class="soft">{{ $t('pair.choose_course.you_can_withdraw_it_at') }}</span>
      </div>
    </section>
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
    <template v-if="titles?.results.length">
      <h2 class="titles">{{ $t('pair.choose_course.or_a_new_course_of') }}</h2>
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
            >{{ $t('pair.choose_course.create')
            }}<span class="sr-only">
              {{ $t('pair.choose_course.a_course_of', { title: title.title }) }}</span
            ></NButton
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
