import { useSyncExternalStore } from 'react'

/** The unit a person sees lengths in, and types bare numbers in. Everything is mm on the server. */
export type Unit = 'mm' | 'in'

const key = 'velvetgate.unit'
const listeners = new Set<() => void>()

const read = (): Unit => (localStorage.getItem(key) === 'in' ? 'in' : 'mm')

export function chooseUnit(unit: Unit) {
  localStorage.setItem(key, unit)
  listeners.forEach((listener) => listener())
}

function subscribe(listener: () => void) {
  listeners.add(listener)
  // Another tab may choose too.
  window.addEventListener('storage', listener)
  return () => {
    listeners.delete(listener)
    window.removeEventListener('storage', listener)
  }
}

export const useUnit = (): Unit => useSyncExternalStore(subscribe, read)

/** Millimetres as a number in the chosen unit: to 0.01 mm or 0.001 in. */
export const lengthIn = (unit: Unit, mm: number): string =>
  String(unit === 'in' ? Math.round((mm / 25.4) * 1000) / 1000 : Math.round(mm * 100) / 100)
