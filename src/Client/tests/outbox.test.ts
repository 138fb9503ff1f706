import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { halfDayOf, keep, send, sendWaiting, waiting, type NearMiss } from '../src/public/outbox'

const told = (id: string): NearMiss => ({
  id,
  halfDay: '2026-11-24 morning',
  machineId: 'heron',
  what: 'smoke',
  note: '',
})

const answers = (...statuses: (number | 'gone' | { status: number; code: string })[]) => {
  const sent: { url: string; body: string; credentials?: string }[] = []
  vi.stubGlobal('fetch', (url: string, init: RequestInit) => {
    sent.push({ url, body: init.body as string, credentials: init.credentials })
    const status = statuses.shift()!
    if (status === 'gone') return Promise.reject(new TypeError('no network'))
    const [code, number] = typeof status === 'object' ? [status.code, status.status] : ['', status]
    return Promise.resolve(
      new Response(JSON.stringify({ code, detail: 'Keep the words shorter.' }), { status: number }),
    )
  })
  return sent
}

describe('near misses that wait for a network', () => {
  beforeEach(() => localStorage.clear())
  afterEach(() => vi.unstubAllGlobals())

  it('wait while there is none, and are sent once when it is back', async () => {
    keep(told('a'))
    keep(told('b'))
    answers('gone', 'gone')
    expect((await sendWaiting()).sent).toBe(0)
    expect(waiting().map((one) => one.id)).toEqual(['a', 'b'])
    const sent = answers(202, 202)
    expect((await sendWaiting()).sent).toBe(2)
    expect(waiting()).toEqual([])
    expect(sent.map((one) => (JSON.parse(one.body) as NearMiss).id)).toEqual(['a', 'b'])
    expect((await sendWaiting()).sent).toBe(0)
  })

  it('carry no cookie, no person and no minute', async () => {
    const sent = answers(202)
    await send(told('a'))
    expect(sent[0]!.credentials).toBe('omit')
    expect(Object.keys(JSON.parse(sent[0]!.body) as object).sort()).toEqual([
      'halfDay',
      'id',
      'machineId',
      'note',
      'what',
    ])
  })

  it('wait on when the house is busy or away, and are let go when it will never take them', async () => {
    keep(told('a'))
    answers(429)
    expect((await send(told('a'))).state).toBe('waits')
    answers(503)
    expect((await send(told('a'))).state).toBe('waits')
    expect(waiting()).toHaveLength(1)
    answers(400)
    expect(await send(told('a'))).toEqual({ state: 'refused', why: 'Keep the words shorter.' })
    expect(waiting()).toEqual([])
  })

  it('go by the clock of the house when told now, and when the clock of the device is wrong', async () => {
    const now = answers(202)
    await send(told('a'), true)
    expect((JSON.parse(now[0]!.body) as NearMiss).halfDay).toBe('')
    keep(told('b'))
    const later = answers({ status: 400, code: 'nearMiss.day' }, 202)
    expect(await sendWaiting()).toEqual({ sent: 1, refused: [] })
    expect(later.map((one) => (JSON.parse(one.body) as NearMiss).halfDay)).toEqual(['2026-11-24 morning', ''])
    expect(waiting()).toEqual([])
  })

  it('are not let go without a word', async () => {
    keep(told('a'))
    answers(400)
    expect(await sendWaiting()).toEqual({ sent: 0, refused: ['Keep the words shorter.'] })
  })

  it('know one id once, and are not lost to rubbish in the store', () => {
    keep(told('a'))
    keep(told('a'))
    expect(waiting()).toHaveLength(1)
    localStorage.setItem('velvetgate-near-misses', '{rubbish')
    expect(waiting()).toEqual([])
  })
})

describe('the half of the day', () => {
  it('is that of the house, wherever the device is', () => {
    const at = new Date('2026-11-24T23:30:00Z')
    expect(halfDayOf(at, 'Europe/London')).toBe('2026-11-24 afternoon')
    expect(halfDayOf(at, 'Pacific/Auckland')).toBe('2026-11-25 afternoon')
    expect(halfDayOf(at, 'Asia/Kolkata')).toBe('2026-11-25 morning')
    expect(halfDayOf(new Date('2026-06-01T11:30:00Z'), 'Europe/London')).toBe('2026-06-01 afternoon')
  })
})
