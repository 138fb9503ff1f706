import { keepPreviousData, queryOptions } from '@tanstack/react-query'
import { answer, client, type Schemas } from '../kit/api'
import type { Unit } from '../kit/units'

export interface ShelfWish {
  find: string
  machine: string
  operation: Schemas['Operation']
  thickness: string
  on: string
}

/** The shelf as asked for: by any name, by what may go in, and as it held on a day. */
export const shelfQuery = (unit: Unit, wish: ShelfWish) =>
  queryOptions({
    queryKey: ['live', 'materials', unit, wish],
    queryFn: async ({ signal }) => {
      const query = {
        unit,
        find: wish.find || undefined,
        on: wish.on || undefined,
        ...(wish.thickness.trim() && {
          thickness: wish.thickness,
          machine: wish.machine || undefined,
          operation: wish.operation,
        }),
      }
      return (await answer(client.GET('/api/materials', { params: { query }, signal }))).items
    },
    placeholderData: keepPreviousData,
    // A whole shelf of a large house is a megabyte: comparing it with the one before costs more than drawing it.
    structuralSharing: false,
    retry: false,
  })

export const historyQuery = (unit: Unit, id: string) =>
  queryOptions({
    queryKey: ['live', 'materials', 'history', unit, id],
    queryFn: async ({ signal }) =>
      (await answer(client.GET('/api/materials/{id}/rulings', { params: { path: { id }, query: { unit } }, signal })))
        .items,
  })

export const proposalsQuery = (unit: Unit) =>
  queryOptions({
    queryKey: ['live', 'materials', 'proposals', unit],
    queryFn: async ({ signal }) =>
      (await answer(client.GET('/api/ruling-proposals', { params: { query: { unit } }, signal }))).items,
  })

export const reasonsQuery = queryOptions({
  queryKey: ['ruling-reasons'],
  queryFn: async ({ signal }) => (await answer(client.GET('/api/ruling-reasons', { signal }))).items,
  staleTime: Infinity,
})
