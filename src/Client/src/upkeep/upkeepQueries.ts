import { queryOptions } from '@tanstack/react-query'
import { answer, client } from '../kit/api'

export const upkeepQuery = queryOptions({
  queryKey: ['live', 'upkeep'],
  queryFn: ({ signal }) => answer(client.GET('/api/upkeep', { signal })),
})

/** What is due on one machine. */
export const machineUpkeepQuery = (machineId: string) =>
  queryOptions({
    queryKey: ['live', 'upkeep', machineId],
    queryFn: async ({ signal }) =>
      (await answer(client.GET('/api/upkeep', { params: { query: { machineId } }, signal }))).items,
  })

export const faultsQuery = queryOptions({
  queryKey: ['live', 'faults'],
  queryFn: async ({ signal }) => (await answer(client.GET('/api/faults', { signal }))).items,
})

export const symptomsQuery = queryOptions({
  queryKey: ['symptoms'],
  queryFn: async ({ signal }) => (await answer(client.GET('/api/symptoms', { signal }))).items,
  staleTime: Infinity,
})
