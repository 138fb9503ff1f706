import { queryOptions } from '@tanstack/react-query'
import { answer, client } from '../shared/api'

export const watchQuery = queryOptions({
  queryKey: ['live', 'watch'],
  queryFn: ({ signal }) => answer(client.GET('/api/watch', { signal })),
})

/** The questions that wait for a steward. */
export const asksQuery = queryOptions({
  queryKey: ['live', 'asks'],
  queryFn: async ({ signal }) => (await answer(client.GET('/api/asks', { signal }))).items,
})
