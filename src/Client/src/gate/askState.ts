import { useSearchParams } from 'react-router'
import type { Schemas } from '../shared/api'
import type { Unit } from '../shared/units'

/** The sentence's blanks. They live in the address, so that a reload or a link keeps the question. */
export interface AskState {
  member: string | null
  operations: string[]
  material: string | null
  thickness: string | null
  tag: string | null
  machine: string | null
  drawing: string | null
  run: string | null
  fixture: string | null
  supervisor: string | null
  date: string | null
  start: string | null
  minutes: string | null
  /** The ask to a steward that this question was opened from. */
  asked: string | null
}

const keys = [
  'member',
  'material',
  'thickness',
  'tag',
  'machine',
  'drawing',
  'run',
  'fixture',
  'supervisor',
  'date',
  'start',
  'minutes',
  'asked',
] as const

export function useAskState(): [AskState, (change: Partial<AskState>) => void] {
  const [params, setParams] = useSearchParams()
  const state = { operations: params.get('operations')?.split(',').filter(Boolean) ?? [] } as unknown as AskState
  for (const key of keys) state[key] = params.get(key)
  const change = (to: Partial<AskState>) =>
    setParams(
      (before) => {
        const after = new URLSearchParams(before)
        // A changed question is no longer the one that was put to the stewards.
        after.delete('asked')
        for (const [key, value] of Object.entries(to)) {
          const text = Array.isArray(value) ? value.join(',') : value
          if (text) after.set(key, text)
          else after.delete(key)
        }
        return after
      },
      { replace: true },
    )
  return [state, change]
}

/** The blanks still to fill before the gate can be asked. */
export function missing(state: AskState) {
  return [
    state.operations.length === 0 && 'what to do',
    !state.thickness && 'the thickness',
    !state.material && 'the material',
    !state.machine && 'the machine',
    !state.start && 'the time',
  ].filter((word) => word !== false)
}

export function askBody(state: AskState, me: string, unit: Unit): Schemas['AskRequest'] {
  return {
    memberId: state.member ?? me,
    unit,
    machineId: state.machine,
    materialId: state.material,
    thickness: state.thickness,
    operations: state.operations,
    sheetTag: state.tag,
    drawingId: state.drawing,
    runMinutes: state.run === null ? null : Number(state.run),
    fixture: state.fixture,
    supervisorId: state.supervisor,
    start: state.start,
    minutes: state.minutes === null ? null : Number(state.minutes),
  }
}

/** The address that asks a stored question again. A question of several items opens with its first. */
export function askAddress(ask: Schemas['Ask'] | undefined, asked?: string): string {
  const item = ask?.items[0]
  if (!ask || !item) return '/ask'
  const params = new URLSearchParams({
    member: ask.memberId,
    operations: item.operations.join(','),
    material: item.materialId,
    thickness: `${item.thicknessMm} mm`,
    machine: ask.machineId,
    start: ask.start,
    minutes: String(ask.minutes),
  })
  if (item.sheetTag) params.set('tag', item.sheetTag)
  if (item.drawingId) params.set('drawing', item.drawingId)
  if (item.runMinutes != null) params.set('run', String(item.runMinutes))
  if (ask.supervisorId) params.set('supervisor', ask.supervisorId)
  if (ask.fixture) params.set('fixture', ask.fixture)
  if (asked) params.set('asked', asked)
  return `/ask?${params}`
}
