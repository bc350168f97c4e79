<script setup lang="ts">
import { NButton } from 'naive-ui/es/button'
import { computed } from 'vue'
import type { Schemas } from '@/api/client'

const props = defineProps<{ course: Schemas['Course']; busy: boolean }>()
defineEmits<{
  choose: [way: 'course' | 'copy_of' | 'section_of', id: string, words: string, share?: boolean]
}>()
const name = computed(() =>
  [props.course.title, props.course.code, props.course.term].filter(Boolean).join(', '),
)
const free = computed(() => !props.course.paired || props.course.offers.includes('sharing'))
const own = computed(() => props.course.mine || props.course.shared)
</script>

<template>
  <tr>
    <td class="wide">
      <strong class="left-ink">{{ course.title }}</strong><br /><span class="soft"
        >{{ [course.author, course.publisher].filter(Boolean).join(' · ')
        }}{{
          course.mine
            ? ` ${$t('pair.course_row.yours')}`
            : course.shared
              ? ` ${$t('pair.course_row.shared_by_a_colleague')}`
              : ''
        }}</span
      >
    </td>
    <td :data-label="$t('pair.course_row.code')" class="code">{{ course.code }}</td>
    <td :data-label="$t('pair.course_row.term')">{{ course.term }}</td>
    <td :data-label="$t('pair.course_row.learners')" class="number">
      {{ course.learners ?? '–' }}
    </td>
    <td :data-label="$t('pair.course_row.why')" class="soft">
      {{ course.reasons.join(', ') || '–' }}
    </td>
    <td>
      <div class="ways">
        <span v-if="course.paired" class="soft">{{ $t('pair.course_row.paired_already') }}</span>
        <NButton
          v-if="free"
          size="small"
          :type="course.paired ? 'default' : 'primary'"
          :loading="busy"
          @click="$emit('choose', 'course', course.id, name, course.paired)"
          >{{ course.paired ? $t('pair.course_row.share') : $t('pair.course_row.pair')
          }}<span class="sr-only"> {{ $t('pair.course_row.with', { name }) }}</span></NButton
        >
        <NButton
          v-if="own && course.offers.includes('copy')"
          size="small"
          @click="
            $emit('choose', 'copy_of', course.id, $t('pair.choose_course.a_copy_of', { name }))
          "
          >{{ $t('pair.course_row.copy') }}<span class="sr-only"> {{ name }}</span></NButton
        >
        <NButton
          v-if="own && course.offers.includes('sections')"
          size="small"
          @click="
            $emit(
              'choose',
              'section_of',
              course.id,
              $t('pair.choose_course.a_new_section_of', { name }),
            )
          "
          >{{ $t('pair.course_row.new_section')
          }}<span class="sr-only"> {{ $t('pair.course_row.of', { name }) }}</span></NButton
        >
      </div>
    </td>
  </tr>
</template>

<style scoped>
.code {
  white-space: nowrap;
}
.ways {
  display: flex;
  gap: 0.35rem;
  flex-wrap: wrap;
  justify-content: flex-end;
  align-items: center;
}
</style>
