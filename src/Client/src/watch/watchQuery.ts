import { queryOptions } from '@tanstack/react-query'
import { answer, client } from '../shared/api'

export const watchQuery = queryOptions({
  queryKey: ['live', 'watch'],
  queryFn: ({ signal }) => answer(client.GET('/api/watch', { signal })),
})
