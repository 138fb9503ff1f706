import { act, renderHook } from '@testing-library/react'
import { describe, expect, it } from 'vitest'
import type { Schemas } from '../src/kit/api'
import { useQuizAnswers } from '../src/training/course/useQuizAnswers'
import { away, outboxServer } from './outboxServer'

const attempt = {
  id: '7',
  ended: null,
  questions: [
    { id: 'q1', answer: [] },
    { id: 'q2', answer: [2] },
  ],
} as unknown as Schemas['AttemptResponse']
const key = 'velvet-gate-quiz-7'

const at = outboxServer()

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
    at.reply = taken
    const { result } = renderHook(() => useQuizAnswers(attempt))
    act(() => result.current.give('q1', [0, 1]))
    await at.settle()
    expect(at.sent).toEqual([{ answer: [0, 1] }])
    expect(result.current.unsent).toBe(0)
    expect(localStorage.getItem(key)).toBeNull()
  })

  it('stay on the device without a connection, through a reload, and are sent when it is back', async () => {
    at.reply = away
    const first = renderHook(() => useQuizAnswers(attempt))
    act(() => first.result.current.give('q1', [3]))
    await at.settle()
    expect(first.result.current.unsent).toBe(1)
    first.unmount()
    const second = renderHook(() => useQuizAnswers(attempt))
    await at.settle()
    expect(second.result.current.given).toEqual({ q1: [3], q2: [2] })
    at.reply = taken
    act(() => {
      window.dispatchEvent(new Event('online'))
    })
    await at.settle()
    expect(at.sent).toEqual([{ answer: [3] }])
    expect(second.result.current.unsent).toBe(0)
  })

  it('are tried again by themselves', async () => {
    at.reply = away
    const { result } = renderHook(() => useQuizAnswers(attempt))
    act(() => result.current.give('q2', [1]))
    await at.settle()
    at.reply = taken
    await at.later()
    expect(at.sent).toEqual([{ answer: [1] }])
    expect(result.current.unsent).toBe(0)
  })

  it('that are refused are not sent for ever, and the refusal is said', async () => {
    at.reply = refused
    const { result } = renderHook(() => useQuizAnswers(attempt))
    act(() => result.current.give('q1', [1]))
    await at.settle()
    expect(result.current.unsent).toBe(0)
    expect(result.current.error).toMatchObject({ problem: { code: 'quiz.ended' } })
  })

  it('that are changed while they travel are sent once more', async () => {
    let open: (response: Response) => void = () => undefined
    at.reply = () => new Promise((resolve) => (open = resolve))
    const { result } = renderHook(() => useQuizAnswers(attempt))
    act(() => result.current.give('q1', [0]))
    await at.settle()
    act(() => result.current.give('q1', [1]))
    at.reply = taken
    open(new Response(null, { status: 204 }))
    await at.settle()
    expect(at.sent).toEqual([{ answer: [0] }, { answer: [1] }])
    expect(result.current.unsent).toBe(0)
  })

  it('are none from a device whose store is not readable', () => {
    localStorage.setItem(key, '{broken')
    at.reply = taken
    expect(renderHook(() => useQuizAnswers(attempt)).result.current.given).toEqual({ q1: [], q2: [2] })
  })
})
