<script setup lang="ts">
import { NCheckbox } from 'naive-ui/es/checkbox'
import { NInput } from 'naive-ui/es/input'
import { NTable } from 'naive-ui/es/table'
import { toRef } from 'vue'
import AfterReading from '@/parts/AfterReading.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import AgreeBox from './AgreeBox.vue'
import CourseRow from './CourseRow.vue'
import TitleList from './TitleList.vue'
import { useChoosing } from './useChoosing'

const props = defineProps<{ shell: string }>()
const shellId = toRef(props, 'shell')
const {
  about,
  words,
  mine,
  name,
  consent,
  courses,
  reading,
  again,
  asking,
  titles,
  chosen,
  choose,
  pair,
} = useChoosing(shellId)
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
    <AfterReading
      :reading="reading"
      :what="$t('pair.choose_course.the_publishers_courses')"
      :none="!courses?.results.length && $t('pair.choose_course.no_homework_course_fits')"
      :none-means="
        words || mine
          ? $t('pair.choose_course.try_fewer_words_or_not')
          : $t('pair.choose_course.the_publisher_lists_no_course')
      "
    >
      <NTable v-if="courses" :bordered="false" class="plain stack">
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
    </AfterReading>
    <p v-for="each in again?.unread" :key="each.publisher" class="unread">
      {{
        $t('pair.choose_course.could_not_be_read_what', {
          publisher: each.publisher,
          message: each.message,
          remedy: each.remedy,
        })
      }}
    </p>
    <p v-if="asking" class="soft" role="status">
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
