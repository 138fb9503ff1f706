import { QueryClient, QueryClientProvider } from '@tanstack/react-query'
import { act, renderHook } from '@testing-library/react'
import type { ReactNode } from 'react'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { usePracticalMarks } from '../src/training/practical/usePracticalMarks'
import { server } from './server'

interface Sent {
  marks: { id: string; stepId: string; mark: string }[]
}
const key = 'velvet-gate-practical-p1'
const sent: Sent[] = []
let reply: () => Promise<Response>

beforeEach(() => {
  vi.useFakeTimers()
  localStorage.clear()
  sent.length = 0
  server.reply = async (request) => {
    const body = (await request.clone().json()) as Sent
    const response = await reply()
    sent.push(body)
    return response
  }
})
afterEach(() => {
  vi.useRealTimers()
})

const form = () => Promise.resolve(new Response('{}', { status: 200, headers: { 'Content-Type': 'application/json' } }))
const away = () => Promise.reject(new TypeError('Failed to fetch'))
const settle = () => act(() => vi.advanceTimersByTimeAsync(10))

const open = () => {
  const queries = new QueryClient()
  const wrapper = ({ children }: { children: ReactNode }) => (
    <QueryClientProvider client={queries}>{children}</QueryClientProvider>
  )
  return renderHook(() => usePracticalMarks('p1', () => 1_764_000_000_000), { wrapper })
}

describe('marks on a practical form', () => {
  it('wait on the device while nothing can be reached, and go in one piece, each with an id of its own', async () => {
    reply = away
    const { result } = open()
    act(() => result.current.mark('s1', 'unprompted'))
    act(() => result.current.mark('s2', 'missed', 'looked away'))
    await settle()
    expect(result.current.unsent).toHaveLength(2)
    reply = form
    await act(() => vi.advanceTimersByTimeAsync(3100))
    expect(result.current.unsent).toHaveLength(0)
    expect(localStorage.getItem(key)).toBeNull()
    const marks = sent.flatMap((s) => s.marks)
    expect(marks.map((m) => m.stepId)).toEqual(['s1', 's2'])
    expect(new Set(marks.map((m) => m.id)).size).toBe(2)
  })

  it('that were lost on the way are sent again under the same id, so that the server takes them once', async () => {
    reply = away
    const first = open()
    act(() => first.result.current.mark('s1', 'prompted'))
    await settle()
    const id = first.result.current.unsent[0]!.id
    first.unmount()
    reply = form
    open()
    await settle()
    expect(sent).toEqual([{ marks: [expect.objectContaining({ id, stepId: 's1', mark: 'prompted' })] }])
  })

  it('sent by another window are sent no more from this one', async () => {
    reply = away
    const { result } = open()
    act(() => result.current.mark('s1', 'unprompted'))
    await settle()
    localStorage.removeItem(key)
    reply = form
    await act(() => vi.advanceTimersByTimeAsync(3100))
    expect(sent).toEqual([])
    expect(result.current.unsent).toEqual([])
  })
})
