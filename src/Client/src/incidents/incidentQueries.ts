import { queryOptions } from '@tanstack/react-query'
import { answer, client } from '../kit/api'

export const incidentsQuery = queryOptions({
  queryKey: ['live', 'incidents'],
  queryFn: ({ signal }) => answer(client.GET('/api/incidents', { signal })),
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
