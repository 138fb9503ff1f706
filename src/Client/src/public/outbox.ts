/** A near miss as it is sent: nothing in it says who. */
export interface NearMiss {
  id: string
  halfDay: string
  machineId: string
  what: string
  note: string
}

const KEY = 'velvetgate-near-misses'
const MOST = 50

/** What waits for a network, on this device alone. */
export function waiting(): NearMiss[] {
  try {
    return JSON.parse(localStorage.getItem(KEY) ?? '[]') as NearMiss[]
  } catch {
    return []
  }
}

function put(all: NearMiss[]) {
  localStorage.setItem(KEY, JSON.stringify(all.slice(-MOST)))
}

export const keep = (told: NearMiss) => put([...waiting().filter((one) => one.id !== told.id), told])

const done = (id: string) => put(waiting().filter((one) => one.id !== id))

/** The half of the house's day, which is all that is kept of when. */
export function halfDayOf(at: Date, zone: string): string {
  const parts = new Intl.DateTimeFormat('en-CA', {
    timeZone: zone,
    year: 'numeric',
    month: '2-digit',
    day: '2-digit',
    hour: '2-digit',
    hourCycle: 'h23',
  }).formatToParts(at)
  const of = (type: string) => parts.find((part) => part.type === type)!.value
  return `${of('year')}-${of('month')}-${of('day')} ${Number(of('hour')) < 12 ? 'morning' : 'afternoon'}`
}

export type Sent = { state: 'sent' } | { state: 'waits' } | { state: 'refused'; why: string }

/** Sends one. What the server has taken, or will never take, waits no longer; all else does. */
export async function send(told: NearMiss): Promise<Sent> {
  let response
  try {
    response = await fetch('/api/near-misses', {
      method: 'POST',
      credentials: 'omit',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify(told),
    })
  } catch {
    return { state: 'waits' }
  }
  if (response.ok) {
    done(told.id)
    return { state: 'sent' }
  }
  if (response.status >= 500 || response.status === 429) return { state: 'waits' }
  done(told.id)
  const problem = (await response.json().catch(() => ({}))) as { detail?: string }
  return { state: 'refused', why: problem.detail ?? 'It was not taken. Tell a steward.' }
}

/** Sends what waits, one after the other. Two windows may both try: an id that the server has is taken once. */
export async function sendWaiting(): Promise<number> {
  let sent = 0
  for (const told of waiting()) if ((await send(told)).state === 'sent') sent++
  return sent
}
