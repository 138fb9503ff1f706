import type { Schemas } from '../kit/api'
import type { Session as Who } from '../kit/session'
import type { Station } from './useStation'

/** What the screen of a session shows, so that it stands there again after a reload without a network. In this tab alone. */
export interface Kept {
  house: Schemas['HouseResponse']
  /** When the house was fetched, in ms of this device. */
  since: number
  memberId: string
  name: string
  station: Station
  /** When it was looked at, in ms of this device. */
  at: number
}

const key = (machine: string) => `station:${machine}`

export function keep({ me, house, now }: Who, station: Station, at: number) {
  if (!station.session) {
    forget(station.machineId)
    return
  }
  const since = Date.parse(house.now) - (now() - Date.now())
  const kept: Kept = { house, since, memberId: me.memberId, name: me.name, station, at }
  sessionStorage.setItem(key(station.machineId), JSON.stringify(kept))
}

export const forget = (machine: string) => sessionStorage.removeItem(key(machine))

export function kept(machine: string): Kept | null {
  const text = sessionStorage.getItem(key(machine))
  try {
    return text ? (JSON.parse(text) as Kept) : null
  } catch {
    return null
  }
}
