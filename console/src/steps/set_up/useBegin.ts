import { useMutation, useQuery } from '@tanstack/vue-query'
import { computed, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { answered, api, type Schemas } from '@/api/client'
import { byName } from '@/logic/order'
import { accountsQuery, coursesQuery, shellsQuery, titlesQuery } from '@/steps/pair/queries'
import { t } from '@/words'

const MOST = 40 // sections on one page; whoever has more unpaired comes from one of them
type Course = Pick<Schemas['Course'], 'id' | 'title' | 'code' | 'term' | 'publisher'> &
  Pick<Schemas['Course'], 'paired' | 'mine' | 'shared' | 'offers'>
type Title = Pick<Schemas['Title'], 'id' | 'title' | 'publisher' | 'can_create'>
export type Way = 'course' | 'share' | 'title' | 'copy_of' | 'section_of'

/** What a select offers: a course as it is, or one that the publisher makes; `way:id` names it. */
export interface Offer {
  value: string
  label: string
  publisher: string
}
export const wayOf = (value: string) => value.slice(0, value.indexOf(':')) as Way
export const isMade = (value: string) => ['title', 'copy_of', 'section_of'].includes(wayOf(value))

const nameOf = (each: Course) => [each.title, each.code, each.term].filter(Boolean).join(', ')
const offer = (way: Way, id: string, label: string, publisher: string) => ({
  value: `${way}:${id}`,
  label,
  publisher,
})
const byLabel = (a: Offer, b: Offer) => byName(a.label, b.label)

/** All that a shell could be paired with, in the groups of the select. */
export function offersOf(courses: Course[], titles: Title[], guessed: [string, string][]) {
  const there = courses.map((each) => each.id)
  const free = courses.filter((each) => !each.paired)
  const own = courses.filter((each) => each.mine || each.shared)
  const groups: [string, Offer[]][] = [
    [
      t('set_up.use_begin.homework_courses'),
      [
        ...free.map((each) => offer('course', each.id, nameOf(each), each.publisher)),
        ...guessed
          .filter(([id]) => !there.includes(id))
          .map(([id, label]) => offer('course', id, label, '')),
      ],
    ],
    [
      t('set_up.use_begin.share_one_that_another_shell'),
      courses
        .filter((each) => each.paired && each.offers.includes('sharing'))
        .map((each) =>
          offer(
            'share',
            each.id,
            t('set_up.use_begin.share', { each: nameOf(each) }),
            each.publisher,
          ),
        ),
    ],
    [
      t('set_up.use_begin.a_new_course_made_by'),
      [
        ...titles
          .filter((each) => each.can_create)
          .map((each) =>
            offer(
              'title',
              each.id,
              t('set_up.use_begin.new_course_of', { title: each.title }),
              each.publisher,
            ),
          ),
        ...own
          .filter((each) => each.offers.includes('copy'))
          .map((each) =>
            offer(
              'copy_of',
              each.id,
              t('set_up.use_begin.copy_of', { each: nameOf(each) }),
              each.publisher,
            ),
          ),
        ...own
          .filter((each) => each.offers.includes('sections'))
          .map((each) =>
            offer(
              'section_of',
              each.id,
              t('set_up.use_begin.new_section_of', { each: nameOf(each) }),
              each.publisher,
            ),
          ),
      ],
    ],
  ]
  return groups
    .filter(([, offers]) => offers.length)
    .map(([label, offers]) => ({
      type: 'group' as const,
      label,
      key: label,
      children: [...offers].sort(byLabel),
    }))
}

/** A section as the service takes it. */
export function sectionOf(shell: string, value: string, name: string) {
  const [way, id] = [wayOf(value), value.slice(value.indexOf(':') + 1)]
  if (way === 'share') return { shell, course: id, share: true, name: '' }
  return { shell, [way]: id, share: false, name: isMade(value) ? name.trim() : '' }
}

/** Which shells belong to which courses: guessed, changed, begun. */
export function useBegin() {
  const route = useRoute()
  const router = useRouter()
  const { data: shells, ...reading } = useQuery(shellsQuery())
  const unpaired = computed(() =>
    (shells.value?.results ?? []).filter((each) => !each.pairing && !each.copied),
  )
  /** The shell that one came from and others of its title; without one, all that are unpaired. */
  const open = computed(() => {
    const from = unpaired.value.find((each) => each.id === route.query.shell)
    const rows = from ? unpaired.value.filter((each) => each.title === from.title) : unpaired.value
    return [...rows]
      .sort((a, b) => Number(b === from) - Number(a === from) || byName(a.label, b.label))
      .slice(0, MOST)
  })
  const left = computed(() => unpaired.value.length - open.value.length)
  const { data: courses } = useQuery(computed(() => coursesQuery('', '', false)))
  const { data: titles } = useQuery(titlesQuery(''))
  const chosen = ref<Record<string, boolean>>({})
  const course = ref<Record<string, string | null>>({})
  const names = ref<Record<string, string>>({})
  const guess = useMutation({
    mutationFn: (ids: string[]) =>
      answered(api.POST('/api/v1/pairings/several', { body: { shells: ids } })),
    onSuccess: (rows) => {
      course.value = Object.fromEntries(
        rows.map((row) => [row.shell, row.course ? `course:${row.course}` : null]),
      )
      // None is ticked that nothing fits.
      chosen.value = Object.fromEntries(rows.map((row) => [row.shell, Boolean(row.course)]))
    },
  })
  watch(
    open,
    (now) => {
      if (now.length && guess.isIdle.value) guess.mutate(now.map((each) => each.id))
    },
    { immediate: true },
  )
  const looking = computed(() => guess.isPending.value)
  const why = (shell: string) => {
    const row = guess.data.value?.find((each) => each.shell === shell)
    if (!course.value[shell]) return ''
    return row?.course && `course:${row.course}` === course.value[shell]
      ? row.reasons.join(', ')
      : t('set_up.use_begin.you_chose_it')
  }
  const options = computed(() =>
    offersOf(
      courses.value?.results ?? [],
      titles.value?.results ?? [],
      (guess.data.value ?? []).flatMap((row) =>
        row.course ? [[row.course, row.course_name] as [string, string]] : [],
      ),
    ),
  )
  const wanted = computed(() =>
    open.value
      .filter((each) => chosen.value[each.id] && course.value[each.id])
      .map((each) => sectionOf(each.id, course.value[each.id]!, names.value[each.id] ?? '')),
  )
  /** The publishers that make a course and must know for whom. */
  const { data: accounts } = useQuery(accountsQuery())
  const toLink = computed(() => {
    const made = Object.values(course.value).filter((value) => value && isMade(value))
    const offers = options.value.flatMap((group) => group.children)
    const publishers = offers.filter((each) => made.includes(each.value))
    return (accounts.value ?? []).filter(
      (each) =>
        each.state !== 'linked' && publishers.some((one) => one.publisher === each.publisher_name),
    )
  })
  const begin = useMutation({
    mutationFn: () =>
      answered(
        api.POST('/api/v1/set-ups', {
          body: { sections: wanted.value, agree: true },
        }),
      ),
    onSuccess: (made) => router.push({ name: 'set-up', params: { setUp: made.id } }),
  })
  return {
    reading,
    open,
    left,
    chosen,
    course,
    names,
    guess,
    looking,
    why,
    options,
    wanted,
    toLink,
    begin,
  }
}
