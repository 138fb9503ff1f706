import { queryOptions } from '@tanstack/react-query'
import { answer, client } from '../kit/api'

/** Runs that were logged last: those an incident may have happened in. */
export const runsNear = queryOptions({
  queryKey: ['live', 'runs'],
  queryFn: async ({ signal }) => (await answer(client.GET('/api/runs', { signal }))).items,
})
