import { act, renderHook } from '@testing-library/react'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import type { Schemas } from '../src/shared/api'
import { useQuizAnswers } from '../src/training/course/useQuizAnswers'
import { server } from './server'

const attempt = {
  id: '7',
  ended: null,
  questions: [
    { id: 'q1', answer: [] },
    { id: 'q2', answer: [2] },
  ],
} as unknown as Schemas['AttemptResponse']
const key = 'velvet-gate-quiz-7'

const sent: unknown[] = []
let reply: () => Promise<Response>

beforeEach(() => {
  vi.useFakeTimers()
  localStorage.clear()
  sent.length = 0
  server.reply = async (request) => {
    const body: unknown = await request.clone().json()
    const response = await reply()
    sent.push(body)
    return response
  }
})
afterEach(() => {
  vi.useRealTimers()
})

const settle = () => act(() => vi.advanceTimersByTimeAsync(10))
const away = () => Promise.reject(new TypeError('Failed to fetch'))
const taken = () => Promise.resolve(new Response(null, { status: 204 }))
const refused = () =>
  Promise.resolve(
    new Response(JSON.stringify({ code: 'quiz.ended', detail: 'It has ended.', status: 409 }), {
      status: 409,
      headers: { 'Content-Type': 'application/problem+json' },
    }),
  )

describe('answers of a quiz', () => {
  it('go to the server when they are given', async () => {
    reply = taken
    const { result } = renderHook(() => useQuizAnswers(attempt))
    act(() => result.current.give('q1', [0, 1]))
    await settle()
    expect(sent).toEqual([{ answer: [0, 1] }])
    expect(result.current.unsent).toBe(0)
    expect(localStorage.getItem(key)).toBeNull()
  })

  it('stay on the device without a connection, through a reload, and are sent when it is back', async () => {
    reply = away
    const first = renderHook(() => useQuizAnswers(attempt))
    act(() => first.result.current.give('q1', [3]))
    await settle()
    expect(first.result.current.unsent).toBe(1)
    first.unmount()
    const second = renderHook(() => useQuizAnswers(attempt))
    await settle()
    expect(second.result.current.given).toEqual({ q1: [3], q2: [2] })
    reply = taken
    act(() => {
      window.dispatchEvent(new Event('online'))
    })
    await settle()
    expect(sent).toEqual([{ answer: [3] }])
    expect(second.result.current.unsent).toBe(0)
  })

  it('are tried again by themselves', async () => {
    reply = away
    const { result } = renderHook(() => useQuizAnswers(attempt))
    act(() => result.current.give('q2', [1]))
    await settle()
    reply = taken
    await act(() => vi.advanceTimersByTimeAsync(3100))
    expect(sent).toEqual([{ answer: [1] }])
    expect(result.current.unsent).toBe(0)
  })

  it('that are refused are not sent for ever, and the refusal is said', async () => {
    reply = refused
    const { result } = renderHook(() => useQuizAnswers(attempt))
    act(() => result.current.give('q1', [1]))
    await settle()
    expect(result.current.unsent).toBe(0)
    expect(result.current.error).toMatchObject({ problem: { code: 'quiz.ended' } })
  })

  it('that are changed while they travel are sent once more', async () => {
    let open: (response: Response) => void = () => undefined
    reply = () => new Promise((resolve) => (open = resolve))
    const { result } = renderHook(() => useQuizAnswers(attempt))
    act(() => result.current.give('q1', [0]))
    await settle()
    act(() => result.current.give('q1', [1]))
    reply = taken
    open(new Response(null, { status: 204 }))
    await settle()
    expect(sent).toEqual([{ answer: [0] }, { answer: [1] }])
    expect(result.current.unsent).toBe(0)
  })

  it('are none from a device whose store is not readable', () => {
    localStorage.setItem(key, '{broken')
    reply = taken
    expect(renderHook(() => useQuizAnswers(attempt)).result.current.given).toEqual({ q1: [], q2: [2] })
  })
})
