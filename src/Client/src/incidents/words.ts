import type { Schemas } from '../kit/api'

export const mishaps: readonly (readonly [Schemas['Mishap'], string])[] = [
  ['flame', 'Flame that stayed'],
  ['glow', 'Glow or embers'],
  ['smoke', 'Smoke or smell'],
  ['fume', 'Choking or strange smell'],
  ['lidTooSoon', 'Lid opened too soon'],
  ['wrongSheet', 'Wrong material'],
  ['nobodyThere', 'Laser running, nobody there'],
  ['headHit', 'The laser head hit something'],
  ['interlockFailed', 'Beam on with the lid open'],
  ['other', 'Something else'],
]

export const severities = [
  [1, 'near miss'],
  [2, 'flame or fume, no harm'],
  [3, 'damage or first aid'],
  [4, 'doctor, or fire service put it out'],
  [5, 'lasting injury, or the building'],
] as const

export const holdTitles: Record<Schemas['HoldKind'], (target: string) => string> = {
  machine: (target) => `${target} is stopped`,
  room: () => 'The room is shut',
  sheets: (target) => `Sheet ${target} and its batch are held`,
  ruling: (target) => `The ruling on ${target} is looked at again`,
  optics: (target) => `Optics of ${target} are looked at`,
  conduct: (target) => `A word with ${target}`,
}

export const holdActs: Record<Schemas['HoldKind'], (target: string) => string> = {
  machine: (target) => `Stop ${target}`,
  room: () => 'Shut the room',
  sheets: () => 'Hold sheet and batch',
  ruling: () => 'Put the ruling under review',
  optics: (target) => `Stop ${target} for its optics`,
  conduct: () => 'Write the conduct entry',
}

export const causeTitles: readonly (readonly [string, string])[] = [
  ['lines', 'Overlapping lines'],
  ['settings', 'Settings for another thickness or material'],
  ['focus', 'Out of focus'],
  ['unattended', 'Nobody at the machine'],
  ['material', 'Unsafe or unknown material'],
  ['residue', 'Residue on the bed or the optics'],
  ['onePass', 'Thick stock in one slow pass'],
  ['extraction', 'Weak extraction'],
  ['airAssist', 'Air assist off'],
  ['lidTooSoon', 'Lid opened too soon'],
  ['machine', 'A fault of the machine'],
  ['other', 'Something else, in words'],
  ['open', 'Not known yet'],
]

/** Minutes as people say them. */
export function minutesWords(minutes: number | null | undefined): string {
  if (minutes == null) return 'not known yet'
  if (minutes < 90) return `${Math.round(minutes)} min`
  if (minutes < 60 * 36) return `${Math.round(minutes / 60)} h`
  return `${Math.round(minutes / 60 / 24)} days`
}
