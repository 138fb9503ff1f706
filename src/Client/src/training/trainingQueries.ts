import { keepPreviousData, queryOptions } from '@tanstack/react-query'
import { answer, client } from '../kit/api'

export interface MatrixWish {
  find: string
  authority: string
  show: string
}

export const matrixQuery = (wish: MatrixWish) =>
  queryOptions({
    queryKey: ['live', 'matrix', wish],
    queryFn: ({ signal }) => answer(client.GET('/api/training/matrix', { params: { query: wish }, signal })),
    placeholderData: keepPreviousData,
    structuralSharing: false,
  })

export const pathsQuery = queryOptions({
  queryKey: ['live', 'paths'],
  queryFn: ({ signal }) => answer(client.GET('/api/training/paths', { signal })),
})

export const inductionsQuery = queryOptions({
  queryKey: ['live', 'inductions'],
  queryFn: async ({ signal }) => (await answer(client.GET('/api/inductions', { signal }))).items,
})

export const holdsQuery = (person: string) =>
  queryOptions({
    queryKey: ['live', 'certificate-holds', person],
    queryFn: async ({ signal }) =>
      (await answer(client.GET('/api/certificate-holds', { params: { query: { person } }, signal }))).items,
  })

export const practicalsQuery = (person: string) =>
  queryOptions({
    queryKey: ['live', 'practicals', person],
    queryFn: async ({ signal }) =>
      (await answer(client.GET('/api/practicals', { params: { query: { person } }, signal }))).items,
  })

export const outsideQuery = (person: string) =>
  queryOptions({
    queryKey: ['live', 'outside', person],
    queryFn: async ({ signal }) =>
      (await answer(client.GET('/api/people/{id}/outside', { params: { path: { id: person } }, signal }))).items,
  })

export const sheetsQuery = queryOptions({
  queryKey: ['live', 'practical-sheets'],
  queryFn: ({ signal }) => answer(client.GET('/api/training/practical-sheets', { signal })),
})
