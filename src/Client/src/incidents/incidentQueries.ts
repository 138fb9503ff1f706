import { queryOptions } from '@tanstack/react-query'
import { answer, client } from '../kit/api'

export const incidentsQuery = queryOptions({
  queryKey: ['live', 'incidents'],
  queryFn: ({ signal }) => answer(client.GET('/api/incidents', { signal })),
})

/** What an incident is described with: the server's words. */
export const choicesQuery = queryOptions({
  queryKey: ['incident-choices'],
  queryFn: ({ signal }) => answer(client.GET('/api/incidents/choices', { signal })),
  staleTime: Infinity,
})

export const incidentQuery = (id: string) =>
  queryOptions({
    queryKey: ['live', 'incidents', id],
    queryFn: ({ signal }) => answer(client.GET('/api/incidents/{id}', { params: { path: { id } }, signal })),
  })

export const nearMissesQuery = queryOptions({
  queryKey: ['live', 'near-misses'],
  queryFn: ({ signal }) => answer(client.GET('/api/near-misses', { signal })),
})

export interface Asked {
  from?: string
  to?: string
  machineId?: string
  cause?: string
}

export const figuresQuery = (asked: Asked) =>
  queryOptions({
    queryKey: ['live', 'incident-figures', asked],
    queryFn: ({ signal }) => answer(client.GET('/api/incidents/figures', { params: { query: asked }, signal })),
  })

/** What was read last stays on the page when the network goes. */
export const headCountQuery = queryOptions({
  queryKey: ['live', 'head-count'],
  queryFn: ({ signal }) => answer(client.GET('/api/head-count', { signal })),
  refetchInterval: 30_000,
  refetchIntervalInBackground: true,
  retry: false,
})
