import { queryOptions, useQuery } from '@tanstack/react-query'
import { answer, client } from '../kit/api'
import { useUnit, type Unit } from '../kit/units'

const LOOK_EVERY_MS = 5000

const watchQuery = (unit: Unit) =>
  queryOptions({
    queryKey: ['live', 'watch', unit],
    queryFn: ({ signal }) => answer(client.GET('/api/watch', { params: { query: { unit } }, signal })),
    // While somebody is at a machine: presses and readings are not in the record.
    refetchInterval: ({ state }) => (state.data?.machines.some((m) => m.station?.step) ? LOOK_EVERY_MS : false),
  })

/** The day as it stands, lengths written in the unit chosen. */
export const useWatch = () => useQuery(watchQuery(useUnit()))

/** The questions that wait for a steward. */
export const asksQuery = queryOptions({
  queryKey: ['live', 'asks'],
  queryFn: async ({ signal }) => (await answer(client.GET('/api/asks', { signal }))).items,
})
