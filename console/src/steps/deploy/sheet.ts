import { useMutation } from '@tanstack/vue-query'
import { computed, reactive, type Ref, ref } from 'vue'
import { answered, api, bytesOf, type Schemas, shaped } from '@/api/client'
import { save } from '@/parts/save'
import type { Destination } from '@/logic/outline'
import { usePlan } from '@/parts/usePlan'
import { type Wishes, wishesOf } from './wishes'

export interface Section {
  pairing: string
  label: string
  on: boolean
  shift: number
  /** A folder of its own, by title or id; empty: as chosen on the right. */
  folder: string
}

/** Folders by unit, by pairing; empty or missing: as the first shell's, else by the unit's name. */
export type Folders = Record<string, Record<string, string>>

/** Return the folder of a unit in a shell, by its name where nobody said another. */
export const folderOf = (folders: Folders, pairing: string, unit: string) =>
  folders[pairing]?.[unit]?.trim() || unit

/** Return what was said for one shell, blanks left out. */
export const saidOf = (folders: Folders, pairing: string): Record<string, string> =>
  Object.fromEntries(
    Object.entries(folders[pairing] ?? {}).flatMap(([unit, title]) =>
      title.trim() ? [[unit, title.trim()]] : [],
    ),
  )

/** How the chosen items are to be placed: everything of a sheet but where to. */
export interface How {
  graded: 'column' | 'link'
  undated: 'ask' | 'column' | 'link'
  category: string
  by: 'publisher' | 'due' | 'unit' | 'chosen'
  show: 'shown' | 'hidden' | 'before' | 'from'
  before: number
  from: string
  window: boolean
  pattern: string
  update: boolean
  move: boolean
}

export const HOW: How = {
  graded: 'column',
  undated: 'ask',
  category: 'publisher',
  by: 'publisher',
  show: 'shown',
  before: 14,
  from: '',
  window: false,
  pattern: '',
  update: false,
  move: false,
}

/** Where items go until somebody says: many links at the top of the outline are what nobody wants. */
export const NOWHERE: Destination = { into: 'unit', folder: '', after: '' }

/** Return the fields of a sheet as the service takes them. */
export function sheetOf(how: How) {
  return {
    graded: how.graded,
    undated: how.undated,
    category: how.category || 'publisher',
    by: how.by,
    visible: how.show !== 'hidden',
    shown_before: how.show === 'before' ? how.before : null,
    shown_from: how.show === 'from' ? how.from : '',
    new_window: how.window,
    pattern: how.pattern,
    update: how.update,
    move: how.move,
  }
}

/** Plan what is chosen as it changes, and start it; `begun` is told of the rollouts. */
export function useSheet(
  pairing: Ref<string>,
  chosen: Ref<string[]>,
  begun: (rollouts: Schemas['WholeRollout'][]) => void,
) {
  const place = ref<Destination>({ ...NOWHERE })
  const how = reactive<How>({ ...HOW })
  const shift = ref(0)
  const sections = ref<Section[]>([])
  const folders = ref<Folders>({})
  const wishes = ref<Wishes>({})
  const path = computed(() => ({ pairing_pk: pairing.value }))
  const body = computed(() => ({
    items: chosen.value,
    ...place.value,
    ...sheetOf(how),
    shift_days: shift.value || null,
    folders: saidOf(folders.value, pairing.value),
    wishes: wishesOf(wishes.value, chosen.value),
    // A section's own folders take the place of the first shell's, so those that it does not say itself are said again.
    sections: sections.value
      .filter((each) => each.on)
      .map((each) => ({
        pairing: each.pairing,
        shift_days: each.shift,
        ...(each.folder.trim() ? { folder: each.folder.trim() } : {}),
        folders: {
          ...saidOf(folders.value, pairing.value),
          ...saidOf(folders.value, each.pairing),
        },
      })),
  }))
  const send = (wanted: typeof body.value, dry_run: boolean) =>
    answered(
      api.POST('/api/v1/pairings/{pairing_pk}/rollouts', {
        params: { path: path.value },
        body: { ...wanted, dry_run },
      }),
    )
  const planned = usePlan(
    computed(() => (chosen.value.length ? body.value : undefined)),
    async (wanted) => shaped(await send(wanted, true), 'shells').shells,
  )
  const deploying = useMutation({
    mutationFn: async () => shaped(await send(body.value, false), 'rollouts'),
    onSuccess: ({ rollouts }) => {
      begun(rollouts)
      chosen.value = []
    },
  })
  const writing = useMutation({
    mutationFn: async () => {
      const call = api.POST('/api/v1/pairings/{pairing_pk}/rollouts/cartridge', {
        params: { path: path.value },
        body: body.value,
        parseAs: 'blob',
      })
      const { response } = await call
      const said = response.headers.get('Content-Disposition') ?? ''
      save(await bytesOf(call), /filename="([^"]+)"/.exec(said)?.[1] ?? 'links.imscc')
    },
  })
  return {
    place,
    how,
    shift,
    sections,
    folders,
    wishes,
    plans: planned.plan,
    error: computed(() => deploying.error.value ?? writing.error.value ?? planned.error.value),
    busy: deploying.isPending,
    again: planned.again,
    deploy: () => deploying.mutate(),
    write: () => writing.mutate(),
  }
}
