import { useMutation } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import { answered, api, bytesOf, Problem, type Schemas } from '@/api/client'
import { save } from '@/parts/save'
import { asForm } from './sending'

function told(answer: Schemas['FileComparison'] | string): Schemas['FileComparison'] {
  if (typeof answer === 'string') throw new TypeError('bytes where a comparison was asked for')
  return answer
}

/** Two files, what comparing them finds, and what is saved of it; nothing of them is kept. */
export function useFileComparison() {
  const publisher = ref<File>()
  const gradebook = ref<File>()
  const layout = ref('')
  const classId = ref('')
  const take = ref<string[]>(['unsent'])
  const both = computed(() => Boolean(publisher.value && gradebook.value))
  const fields = () => ({
    publisher: publisher.value,
    gradebook: gradebook.value,
    layout: layout.value,
    class_id: classId.value,
  })
  // Without a form it answers with the comparison, with one with bytes.
  const compare = useMutation({
    mutationFn: async () =>
      told(await answered(api.POST('/api/v1/file-comparisons', asForm(fields())))),
  })
  const found = computed(() => compare.data.value)
  const agree = computed(() => found.value?.summary.agree ?? 0)
  const cells = computed(() => found.value?.summary.cells ?? 0)
  // The file that could not be read is the one to look at; what the error does not name is most likely the gradebook.
  const wide = computed(() =>
    compare.error.value instanceof Problem &&
    compare.error.value.message.includes(publisher.value?.name ?? '\0')
      ? publisher.value
      : gradebook.value,
  )
  const severalClasses = computed(
    () =>
      classId.value ||
      (compare.error.value instanceof Problem && compare.error.value.code === 'class_needed'),
  )
  function chosen(side: 'publisher' | 'gradebook', file: File) {
    if (side === 'publisher') publisher.value = file
    else gradebook.value = file
    layout.value = ''
    compare.reset()
    if (both.value) compare.mutate()
  }
  const away = useMutation({
    mutationFn: async (form: string) => {
      const bytes = await bytesOf(
        api.POST('/api/v1/file-comparisons', {
          ...asForm({ ...fields(), form, take: take.value }),
          parseAs: 'blob',
        }),
      )
      save(
        bytes,
        form === 'gradebook' ? (gradebook.value?.name ?? 'gradebook.csv') : `comparison.${form}`,
      )
    },
  })
  return {
    publisher,
    gradebook,
    layout,
    classId,
    take,
    both,
    compare,
    found,
    agree,
    cells,
    wide,
    severalClasses,
    chosen,
    away,
  }
}
