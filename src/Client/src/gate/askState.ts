import { useSearchParams } from 'react-router'
import type { Schemas } from '../kit/api'
import type { Unit } from '../kit/units'

/** What turns on the rotary, as typed. */
export interface RoundState {
  diameter: string
  diameter2: string | null
  handleOrBall: boolean
}

/** One thing to run. */
export interface ItemState {
  operations: string[]
  material: string | null
  thickness: string | null
  tag: string | null
  drawing: string | null
  run: string | null
  /** Entries of the library of settings, with commas between. */
  settings: string | null
  round: RoundState | null
}

/** The sentence's blanks. They live in the address, so that a reload or a link keeps the question. */
export interface AskState extends ItemState {
  member: string | null
  machine: string | null
  /** What else is to run in the same time: the first item stands in the blanks above. */
  more: ItemState[]
  fixture: string | null
  supervisor: string | null
  date: string | null
  start: string | null
  minutes: string | null
  /** A finishing bench: its minutes, and after “@” its start where it does not follow the machine’s time. */
  bench: string | null
  /** The request to a steward that this question was opened from. */
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
  'settings',
  'fixture',
  'supervisor',
  'date',
  'start',
  'minutes',
  'bench',
  'asked',
] as const

const itemKeys = ['material', 'thickness', 'tag', 'drawing', 'run', 'settings'] as const

/** The server takes no more than twenty in all. */
export const mostItems = 20

export const emptyItem: ItemState = {
  operations: [],
  material: null,
  thickness: null,
  tag: null,
  drawing: null,
  run: null,
  settings: null,
  round: null,
}

/** In an address: one end, the other, and a word for a handle. */
const roundWord = (round: RoundState) =>
  [round.diameter, round.diameter2 ?? '', round.handleOrBall ? 'handle' : ''].join('|')

const readRound = (word: string | null): RoundState | null => {
  const [diameter, diameter2, handle] = word?.split('|') ?? []
  return diameter ? { diameter, diameter2: diameter2 || null, handleOrBall: handle === 'handle' } : null
}

export const roundText = (round: RoundState) =>
  `${round.diameter}${round.diameter2 ? ` and ${round.diameter2}` : ''} across${round.handleOrBall ? ', with a handle' : ''}`

const readItem = (text: string): ItemState => {
  const params = new URLSearchParams(text)
  const item = { operations: params.get('operations')?.split(',').filter(Boolean) ?? [] } as unknown as ItemState
  for (const key of itemKeys) item[key] = params.get(key)
  item.round = readRound(params.get('round'))
  return item
}

const writeItem = (item: ItemState) => {
  const params = new URLSearchParams()
  if (item.operations.length > 0) params.set('operations', item.operations.join(','))
  for (const key of itemKeys) {
    const value = item[key]
    if (value) params.set(key, value)
  }
  if (item.round) params.set('round', roundWord(item.round))
  return params.toString()
}

/** The first item and what else is to run. */
export const itemsOf = (state: AskState): ItemState[] => [state, ...state.more]

/** Settings are for one machine, material and operation: with another of these they are chosen anew. */
export const withoutSettings = (to: Partial<AskState>): Partial<AskState> =>
  ['machine', 'material', 'operations'].some((key) => key in to) && to.settings === undefined
    ? { ...to, settings: null }
    : to

const dropSettings = (params: URLSearchParams) => {
  const more = params.getAll('and').map((text) => writeItem({ ...readItem(text), settings: null }))
  params.delete('and')
  for (const item of more) params.append('and', item)
}

export function useAskState(): [AskState, (change: Partial<AskState>) => void] {
  const [params, setParams] = useSearchParams()
  const state = { operations: params.get('operations')?.split(',').filter(Boolean) ?? [] } as unknown as AskState
  for (const key of keys) state[key] = params.get(key)
  state.round = readRound(params.get('round'))
  state.more = params.getAll('and').map(readItem)
  const change = (to: Partial<AskState>) =>
    setParams(
      (before) => {
        const after = new URLSearchParams(before)
        // A changed question is no longer the one that was put to the stewards.
        after.delete('asked')
        const { more, round, ...rest } = withoutSettings(to)
        if (round) after.set('round', roundWord(round))
        else if (round === null) after.delete('round')
        // Another machine has other settings for every sheet.
        if (to.machine !== undefined && !more) dropSettings(after)
        if (more) {
          after.delete('and')
          for (const item of more) after.append('and', writeItem(item))
        }
        for (const [key, value] of Object.entries(rest)) {
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

/** The blanks of the job alone, whatever the machine and the time. */
export function missingOfJob(state: AskState) {
  const items = itemsOf(state)
  return [
    items.some((i) => i.operations.length === 0) && 'what to do',
    items.some((i) => !i.thickness) && 'the thickness',
    items.some((i) => !i.material) && 'the material',
  ].filter((word) => word !== false)
}

/** The blanks still to fill before the gate can be asked. */
export const missing = (state: AskState) => [
  ...missingOfJob(state),
  ...[!state.machine && 'the machine', !state.start && 'the time'].filter((word) => word !== false),
]

const itemBody = (item: ItemState, fixture: string | null): Schemas['GateItemRequest'] => ({
  materialId: item.material,
  thickness: item.thickness,
  operations: item.operations,
  sheetTag: item.tag,
  drawingId: item.drawing,
  runMinutes: item.run === null ? null : Number(item.run),
  ...(item.round && fixture === 'rotary' && { round: item.round }),
  ...(item.settings && { settingIds: item.settings.split(',') }),
})

/** The job alone, to be asked of any machine at any time. */
export function jobBody(state: AskState, me: string, unit: Unit): Schemas['GateQuestionRequest'] {
  return {
    memberId: state.member ?? me,
    unit,
    ...(state.more.length === 0
      ? itemBody(state, state.fixture)
      : { items: itemsOf(state).map((item) => itemBody(item, state.fixture)) }),
    fixture: state.fixture,
    supervisorId: state.supervisor,
    ...(state.bench && { bench: benchOf(state.bench) }),
  }
}

export const benchOf = (word: string): { minutes: number; start?: string } => {
  const [minutes, start] = word.split('@')
  return { minutes: Number(minutes), ...(start && { start }) }
}

export const askBody = (state: AskState, me: string, unit: Unit): Schemas['GateQuestionRequest'] => ({
  ...jobBody(state, me, unit),
  machineId: state.machine,
  start: state.start,
  minutes: state.minutes === null ? null : Number(state.minutes),
})

/** The address that asks a stored question again, or a job that has no time and nobody in it. */
export function askAddress(
  ask: (Partial<Schemas['GateQuestion']> & Pick<Schemas['GateQuestion'], 'machineId' | 'items'>) | undefined,
  asked?: string,
): string {
  const [first, ...more] = (ask?.items ?? []).map((item): ItemState => ({
    operations: item.operations,
    material: item.materialId,
    thickness: `${item.thicknessMm} mm`,
    tag: item.sheetTag ?? null,
    drawing: item.drawingId ?? null,
    run: item.runMinutes == null ? null : String(item.runMinutes),
    settings: item.settingIds?.join(',') ?? null,
    round: item.round
      ? {
          diameter: `${item.round.diameterMm} mm`,
          diameter2: item.round.diameter2Mm == null ? null : `${item.round.diameter2Mm} mm`,
          handleOrBall: item.round.handleOrBall,
        }
      : null,
  }))
  if (!ask || !first) return '/ask'
  const params = new URLSearchParams({
    ...Object.fromEntries(new URLSearchParams(writeItem(first))),
    machine: ask.machineId,
  })
  if (ask.memberId) params.set('member', ask.memberId)
  if (ask.start) params.set('start', ask.start)
  if (ask.minutes) params.set('minutes', String(ask.minutes))
  for (const item of more) params.append('and', writeItem(item))
  if (ask.supervisorId) params.set('supervisor', ask.supervisorId)
  if (ask.fixture) params.set('fixture', ask.fixture)
  if (ask.bench) params.set('bench', [ask.bench.minutes ?? '', ask.bench.start ?? ''].filter(Boolean).join('@'))
  if (asked) params.set('asked', asked)
  return `/ask?${params}`
}
