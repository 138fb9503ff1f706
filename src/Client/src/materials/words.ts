import type { Schemas } from '../kit/api'

export const kindNames: [Schemas['LaserKind'], string][] = [
  ['co2', 'CO₂'],
  ['diode', 'diode'],
  ['fibre', 'fibre'],
]
export const operationNames: [Schemas['Operation'], string][] = [
  ['cut', 'cut'],
  ['score', 'score'],
  ['engrave', 'engrave'],
]
export const standingNames: [Schemas['RulingStatus'], string][] = [
  ['permitted', 'permitted'],
  ['byArrangement', 'by arrangement'],
  ['banned', 'banned'],
  ['never', 'never, and nobody can relax this'],
  ['cannot', 'this laser cannot'],
]
export const evidenceNames: [Schemas['Evidence'], string][] = [
  ['none', 'nothing needed'],
  ['declared', 'source declared'],
  ['clearedTag', 'tag of a cleared sheet'],
]
export const nameOf = <T extends string>(names: [T, string][], value: T) =>
  names.find(([v]) => v === value)?.[1] ?? value
