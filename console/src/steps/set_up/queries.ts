import { queryOptions } from '@tanstack/vue-query'
import { answered, api, type Schemas } from '@/api/client'
import { askAgain } from '@/parts/askAgain'

export type Wishes = Schemas['SetUpWishesRequest']

/** Stages in which something is still under way. */
export const BUSY = ['reading', 'running', 'waiting', 'undoing']

/** Whether something is still to come: what came of it all is said a moment after the last section. */
export const isBusy = (found: Schemas['SetUp']) =>
  found.sections.some((each) => BUSY.includes(each.stage)) ||
  (!!found.started_at && !found.words && found.sections.every((each) => each.stage === 'live'))

/** A set-up with how far each section is, looked at again while one is under way. */
export const setUpQuery = (id: string) =>
  queryOptions({
    queryKey: ['set-up', id],
    queryFn: () => answered(api.GET('/api/v1/set-ups/{id}', { params: { path: { id } } })),
    refetchInterval: ({ state }) =>
      askAgain(700, Boolean(state.data && isBusy(state.data)), state.error),
  })

/** What would happen with these wishes; nothing is changed. */
export const planQuery = (id: string, wishes: Wishes) =>
  queryOptions({
    queryKey: ['set-up', id, 'plan', wishes],
    queryFn: () =>
      answered(
        api.POST('/api/v1/set-ups/{id}/plan', {
          params: { path: { id } },
          body: wishes,
        }),
      ),
  })
