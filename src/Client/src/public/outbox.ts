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
  try {
    localStorage.setItem(KEY, JSON.stringify(all.slice(-MOST)))
  } catch {
    // A browser that keeps nothing can still send.
  }
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

/** What the server says to one; without the half day the house takes its own clock. */
async function post(told: NearMiss): Promise<Response | null> {
  try {
    return await fetch('/api/near-misses', {
      method: 'POST',
      credentials: 'omit',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify(told),
    })
  } catch {
    return null
  }
}

const problemOf = async (response: Response) =>
  (await response.json().catch(() => ({}))) as { code?: string; detail?: string }

/**
 * Sends one. What the server has taken, or will never take, waits no longer; all else does.
 * @param now It is told this moment: the clock of the house counts, and not that of the device.
 */
export async function send(told: NearMiss, now = false): Promise<Sent> {
  let response = await post(now ? { ...told, halfDay: '' } : told)
  let problem = response && !response.ok ? await problemOf(response) : null
  // A device whose clock is wrong has told it all the same.
  if (problem?.code === 'nearMiss.day') {
    response = await post({ ...told, halfDay: '' })
    problem = response && !response.ok ? await problemOf(response) : null
  }
  if (!response || response.status >= 500 || response.status === 429) return { state: 'waits' }
  done(told.id)
  return problem ? { state: 'refused', why: problem.detail ?? 'It was not taken. Tell a steward.' } : { state: 'sent' }
}

/** Sends what waits, one after the other. Two windows may both try: an id that the server has is taken once. */
export async function sendWaiting(): Promise<{ sent: number; refused: string[] }> {
  const result = { sent: 0, refused: [] as string[] }
  for (const told of waiting()) {
    const one = await send(told)
    if (one.state === 'sent') result.sent++
    if (one.state === 'refused') result.refused.push(one.why)
    // No network, or as many as are taken in an hour: the others would fare no better.
    if (one.state === 'waits') break
  }
  return result
}
