import { queryOptions, useQuery } from '@tanstack/react-query'
import { createContext, useContext } from 'react'
import { answer, client, keepToken, type Schemas } from './api'
import { HouseTime } from './time'
import { useUnit, type Unit } from './units'

export const houseQuery = queryOptions({
  queryKey: ['house'],
  queryFn: ({ signal }) => answer(client.GET('/api/house', { signal })),
  staleTime: Infinity,
})

export const meQuery = queryOptions({
  queryKey: ['me'],
  queryFn: async ({ signal }) => {
    const me = await answer(client.GET('/api/me', { signal }))
    keepToken(me.antiforgeryHeader, me.antiforgeryToken)
    return me
  },
  retry: false,
  staleTime: Infinity,
})

export interface Session {
  me: Schemas['MeResponse']
  house: Schemas['HouseResponse']
  time: HouseTime
  /** The house's present in ms: the server's clock, counted on. */
  now: () => number
}

/** Who looks at a screen that stands at a machine. */
export const nobody: Schemas['MeResponse'] = {
  memberId: '',
  name: '',
  roles: [],
  antiforgeryHeader: '',
  antiforgeryToken: '',
  factorOwed: false,
  pause: null,
}

/** @param since When the house was fetched, in ms. */
export function sessionOf(me: Schemas['MeResponse'], house: Schemas['HouseResponse'], since: number): Session {
  const ahead = Date.parse(house.now) - since
  return { me, house, time: new HouseTime(house.zone), now: () => Date.now() + ahead }
}

/** True where this browser is a screen that a keeper enrolled at the machine. */
export const useStands = (machine: string) =>
  useQuery({
    queryKey: ['stands', machine],
    queryFn: async ({ signal }) => {
      await answer(client.GET('/api/stations/{machine}', { params: { path: { machine } }, signal }))
      return true
    },
    retry: false,
  })

export const SessionContext = createContext<Session | null>(null)

/** Who is signed in, and the house. Only inside the frame. */
export function useSession(): Session {
  const session = useContext(SessionContext)
  if (!session) throw new Error('useSession outside the frame')
  return session
}

export const hasRole = (me: Schemas['MeResponse'], ...roles: string[]) =>
  me.roles.some((held) => roles.includes(held.split(':')[0]!))

export const machinesQuery = queryOptions({
  queryKey: ['live', 'machines'],
  queryFn: async ({ signal }) => (await answer(client.GET('/api/machines', { signal }))).items,
})

export const peopleQuery = queryOptions({
  queryKey: ['live', 'people'],
  queryFn: async ({ signal }) => (await answer(client.GET('/api/people', { signal }))).items,
})

export const materialsQuery = (unit: Unit) =>
  queryOptions({
    queryKey: ['live', 'materials', unit],
    queryFn: async ({ signal }) =>
      (await answer(client.GET('/api/materials', { params: { query: { unit } }, signal }))).items,
    staleTime: 60_000,
  })

export const sheetsQuery = queryOptions({
  queryKey: ['live', 'sheets'],
  queryFn: async ({ signal }) => (await answer(client.GET('/api/sheets', { signal }))).items,
})

/** Who trains on a machine now: the people that may supervise there. */
export const trainersQuery = (machine: string) =>
  queryOptions({
    queryKey: ['live', 'trainers', machine],
    queryFn: async ({ signal }) =>
      (await answer(client.GET('/api/machines/{id}/trainers', { params: { path: { id: machine } }, signal }))).items,
  })

export const drawingsQuery = queryOptions({
  queryKey: ['drawings'],
  queryFn: async ({ signal }) => (await answer(client.GET('/api/drawings', { signal }))).items,
})

/** The times of a local day that can be chosen, each with its instant. */
export const dayQuery = (date: string) =>
  queryOptions({
    queryKey: ['day', date],
    queryFn: ({ signal }) => answer(client.GET('/api/house/day', { params: { query: { date } }, signal })),
    staleTime: 600_000,
  })

/** The shelf, its limits written in the unit chosen. */
export const useMaterials = () => useQuery(materialsQuery(useUnit()))

export const useMachines = () => useQuery(machinesQuery)
