import { act } from '@testing-library/react'
import { afterEach, beforeEach, vi } from 'vitest'
import { server } from './server'

/** A server that what waits on the device is sent to, an empty device, and a clock that stands until it is moved. */
export function outboxServer() {
  const at = {
    /** What arrived, in its order. */
    sent: [] as unknown[],
    reply: (): Promise<Response> => Promise.reject(new Error('No reply is set.')),
    settle: () => act(() => vi.advanceTimersByTimeAsync(10)),
    /** Long enough for what waits to be tried again. */
    later: () => act(() => vi.advanceTimersByTimeAsync(3100)),
  }
  beforeEach(() => {
    vi.useFakeTimers()
    localStorage.clear()
    at.sent.length = 0
    server.reply = async (request) => {
      const body = (await request.clone().json()) as unknown
      const response = await at.reply()
      at.sent.push(body)
      return response
    }
  })
  afterEach(() => {
    vi.useRealTimers()
  })
  return at
}

export const away = () => Promise.reject(new TypeError('Failed to fetch'))
