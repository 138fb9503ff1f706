import { keepPreviousData, queryOptions } from '@tanstack/react-query'
import { answer, client } from '../kit/api'
import type { Unit } from '../kit/units'

export interface SettingWish {
  operation: 'cut' | 'score' | 'engrave'
  materialId: string
  machineId: string
  thickness: string
}

/** The entries for one machine and material, held against the thickness measured. */
export const settingsQuery = (wish: SettingWish, unit: Unit) =>
  queryOptions({
    queryKey: ['live', 'settings', wish, unit],
    queryFn: ({ signal }) => answer(client.GET('/api/settings', { params: { query: { ...wish, unit } }, signal })),
    enabled: wish.materialId !== '' && wish.machineId !== '' && wish.thickness.trim() !== '',
    placeholderData: keepPreviousData,
    retry: false,
  })
