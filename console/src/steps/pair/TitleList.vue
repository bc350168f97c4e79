<script setup lang="ts">
import { NButton } from 'naive-ui/es/button'
import type { Schemas } from '@/api/client'

/** Titles of which a publisher would make a new course. */
defineProps<{ titles: Schemas['Title'][] }>()
const emit = defineEmits<{ choose: [title: string, words: string] }>()
</script>

<template>
  <section>
    <h2 class="titles">{{ $t('pair.choose_course.or_a_new_course_of') }}</h2>
    <ul>
      <li v-for="title in titles" :key="title.id" class="row">
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
          @click="
            emit(
              'choose',
              title.id,
              $t('pair.choose_course.a_new_course_of', { title: title.title }),
            )
          "
          >{{ $t('pair.choose_course.create')
          }}<span class="sr-only">
            {{ $t('pair.choose_course.a_course_of', { title: title.title }) }}</span
          ></NButton
        >
        <span v-else class="push soft">{{ title.why_not }}</span>
      </li>
    </ul>
  </section>
</template>

<style scoped>
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
