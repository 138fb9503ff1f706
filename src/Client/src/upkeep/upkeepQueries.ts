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

/** Machines that stood for long. */
export const breaksQuery = queryOptions({
  queryKey: ['live', 'upkeep', 'breaks'],
  queryFn: async ({ signal }) => (await answer(client.GET('/api/upkeep/breaks', { signal }))).items,
})

/** Fire kit and eyewear, as last looked at. */
export const roundQuery = queryOptions({
  queryKey: ['live', 'upkeep', 'round'],
  queryFn: ({ signal }) => answer(client.GET('/api/upkeep/round', { signal })),
})

/** What upkeep uses up. */
export const stockQuery = queryOptions({
  queryKey: ['live', 'upkeep', 'stock'],
  queryFn: async ({ signal }) => (await answer(client.GET('/api/upkeep/stock', { signal }))).items,
})

/** Locks that hang on machines out of service. */
export const locksQuery = queryOptions({
  queryKey: ['live', 'locks'],
  queryFn: async ({ signal }) => (await answer(client.GET('/api/locks', { signal }))).items,
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

/** Of what time a trend is shown. */
export const spans = [
  { days: '28', name: 'four weeks' },
  { days: '90', name: 'three months' },
  { days: '366', name: 'a year' },
  { days: '1830', name: 'five years' },
] as const

export const trendsQuery = (machineId: string, days: string) =>
  queryOptions({
    queryKey: ['live', 'trends', machineId, days],
    queryFn: ({ signal }) =>
      answer(
        client.GET('/api/machines/{id}/trends', {
          params: { path: { id: machineId }, query: { days: Number(days) } },
          signal,
        }),
      ),
  })
