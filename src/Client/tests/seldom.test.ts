import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { seldom } from '../src/kit/seldom'

describe('what is fetched anew when something happens', () => {
  beforeEach(() => void vi.useFakeTimers())
  afterEach(() => void vi.useRealTimers())

  it('is fetched soon, and at most once a second however much happens', () => {
    const fetched: number[] = []
    const start = Date.now()
    const refresh = seldom(() => fetched.push(Date.now() - start), 1000)
    // Twenty events a second for ten seconds, without a pause between them.
    for (let i = 0; i < 200; i++) {
      refresh.call()
      vi.advanceTimersByTime(50)
    }
    expect(fetched[0]).toBeLessThanOrEqual(150)
    expect(fetched.length).toBeGreaterThanOrEqual(9)
    for (let i = 1; i < fetched.length; i++) expect(fetched[i]! - fetched[i - 1]!).toBeGreaterThanOrEqual(1000)
  })

  it('is fetched after the last event too', () => {
    let told = 0
    let seen = 0
    const refresh = seldom(() => (seen = told), 1000)
    for (told = 1; told <= 7; told++) {
      refresh.call()
      vi.advanceTimersByTime(30)
    }
    refresh.call()
    vi.advanceTimersByTime(1100)
    expect(seen).toBe(8)
  })

  it('is not fetched once nobody looks', () => {
    const act = vi.fn()
    const refresh = seldom(act, 1000)
    refresh.call()
    refresh.stop()
    vi.advanceTimersByTime(5000)
    expect(act).not.toHaveBeenCalled()
  })
})
