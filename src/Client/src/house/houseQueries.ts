import { queryOptions } from '@tanstack/react-query'
import { answer, client } from '../kit/api'

export const formsQuery = queryOptions({
  queryKey: ['house', 'forms'],
  queryFn: ({ signal }) => answer(client.GET('/api/house/forms', { signal })),
  staleTime: Infinity,
})

export const sheetsOfHouseQuery = queryOptions({
  queryKey: ['live', 'house', 'sheets'],
  queryFn: ({ signal }) => answer(client.GET('/api/house/sheets', { signal })),
})

export const rulesQuery = queryOptions({
  queryKey: ['live', 'house', 'rules'],
  queryFn: async ({ signal }) => (await answer(client.GET('/api/house/rules', { signal }))).versions,
})

export const calendarQuery = queryOptions({
  queryKey: ['live', 'house', 'calendar'],
  queryFn: async ({ signal }) => (await answer(client.GET('/api/calendar', { signal }))).items,
})

export const foundingQuery = queryOptions({
  queryKey: ['live', 'founding'],
  queryFn: async ({ signal }) => (await answer(client.GET('/api/founding-sign-offs', { signal }))).items,
})

/** Papers that inspectors ask for. */
export const papersQuery = queryOptions({
  queryKey: ['live', 'house', 'papers'],
  queryFn: ({ signal }) => answer(client.GET('/api/house/papers', { signal })),
})

export const commissioningQuery = queryOptions({
  queryKey: ['live', 'house', 'commissioning'],
  queryFn: ({ signal }) => answer(client.GET('/api/commissioning', { signal })),
})
