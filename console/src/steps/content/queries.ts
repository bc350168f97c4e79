import { infiniteQueryOptions, queryOptions } from '@tanstack/vue-query'
import { answered, api, cursorOf, type Schemas, shaped } from '@/api/client'

type Filters = { kind?: string; placed?: boolean; q?: string }

export const itemsQuery = (pairing: string, filters: Filters) =>
  infiniteQueryOptions({
    queryKey: ['pairing', pairing, 'items', filters],
    queryFn: ({ pageParam }) =>
      answered(
        api.GET('/api/v1/pairings/{pairing_pk}/items', {
          params: {
            path: { pairing_pk: pairing },
            query: { ...filters, limit: 200, ...(pageParam ? { cursor: pageParam } : {}) },
          },
        }),
      ),
    initialPageParam: '',
    getNextPageParam: (page) => cursorOf(page.next),
  })

export const outlineQuery = (pairing: string) =>
  queryOptions({
    queryKey: ['pairing', pairing, 'outline'],
    queryFn: () =>
      answered(
        api.GET('/api/v1/pairings/{pairing_pk}/outline', {
          params: { path: { pairing_pk: pairing } },
        }),
      ),
  })

export const importsQuery = (pairing: string) =>
  queryOptions({
    queryKey: ['pairing', pairing, 'imports'],
    queryFn: () =>
      answered(
        api.GET('/api/v1/pairings/{pairing_pk}/imports', {
          params: { path: { pairing_pk: pairing }, query: { limit: 20 } },
        }),
      ),
  })

export const importQuery = (pairing: string, id: string) =>
  queryOptions({
    queryKey: ['pairing', pairing, 'import', id],
    queryFn: () =>
      answered(
        api.GET('/api/v1/pairings/{pairing_pk}/imports/{id}', {
          params: { path: { pairing_pk: pairing, id } },
        }),
      ),
  })

export const catalogueQuery = (pairing: string) =>
  queryOptions({
    queryKey: ['pairing', pairing, 'catalogue'],
    queryFn: () =>
      answered(
        api.GET('/api/v1/pairings/{pairing_pk}/catalogue', {
          params: { path: { pairing_pk: pairing } },
        }),
      ),
  })

/** Read an import's whole outline, page after page. */
export const entriesQuery = (pairing: string, id: string) =>
  queryOptions({
    queryKey: ['pairing', pairing, 'import', id, 'entries'],
    queryFn: async () => {
      const rows: Schemas['Entry'][] = []
      for (let cursor: string | undefined = ''; cursor !== undefined;) {
        const page: Schemas['PaginatedEntryList'] = await answered(
          api.GET('/api/v1/pairings/{pairing_pk}/imports/{import_pk}/entries', {
            params: {
              path: { pairing_pk: pairing, import_pk: id },
              query: { limit: 500, ...(cursor ? { cursor } : {}) },
            },
          }),
        )
        rows.push(...page.results)
        cursor = cursorOf(page.next)
      }
      return rows
    },
  })

export const previewQuery = (pairing: string, made: string, entry: string) =>
  queryOptions({
    queryKey: ['pairing', pairing, 'import', made, 'preview', entry],
    queryFn: () =>
      answered(
        api.GET('/api/v1/pairings/{pairing_pk}/imports/{import_pk}/entries/{id}/preview', {
          params: { path: { pairing_pk: pairing, import_pk: made, id: entry } },
        }),
      ),
  })

/** What bringing in everything would do: by it is known what is in the shell already. */
export const recognisedQuery = (pairing: string, id: string, enabled: boolean) =>
  queryOptions({
    queryKey: ['pairing', pairing, 'import', id, 'recognised'],
    queryFn: async () =>
      shaped(
        await answered(
          api.POST('/api/v1/pairings/{pairing_pk}/imports/{id}/deliveries', {
            params: { path: { pairing_pk: pairing, id } },
            body: { everything: true, dry_run: true },
          }),
        ),
        'entries',
      ),
    enabled,
    retry: false,
  })
