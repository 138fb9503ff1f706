import { QueryClient, QueryClientProvider } from '@tanstack/react-query'
import { act, renderHook } from '@testing-library/react'
import type { ReactNode } from 'react'
import { describe, expect, it } from 'vitest'
import { usePracticalMarks } from '../src/training/practical/usePracticalMarks'
import { away, outboxServer } from './outboxServer'

interface Sent {
  marks: { id: string; stepId: string; mark: string }[]
}
const key = 'velvet-gate-practical-p1'
const at = outboxServer()

const form = () => Promise.resolve(new Response('{}', { status: 200, headers: { 'Content-Type': 'application/json' } }))

const open = () => {
  const queries = new QueryClient()
  const wrapper = ({ children }: { children: ReactNode }) => (
    <QueryClientProvider client={queries}>{children}</QueryClientProvider>
  )
  return renderHook(() => usePracticalMarks('p1', () => 1_764_000_000_000), { wrapper })
}

describe('marks on a practical form', () => {
  it('wait on the device while nothing can be reached, and go in one piece, each with an id of its own', async () => {
    at.reply = away
    const { result } = open()
    act(() => result.current.mark('s1', 'unprompted'))
    act(() => result.current.mark('s2', 'missed', 'looked away'))
    await at.settle()
    expect(result.current.unsent).toHaveLength(2)
    at.reply = form
    await at.later()
    expect(result.current.unsent).toHaveLength(0)
    expect(localStorage.getItem(key)).toBeNull()
    const marks = (at.sent as Sent[]).flatMap((s) => s.marks)
    expect(marks.map((m) => m.stepId)).toEqual(['s1', 's2'])
    expect(new Set(marks.map((m) => m.id)).size).toBe(2)
  })

  it('that were lost on the way are sent again under the same id, so that the server takes them once', async () => {
    at.reply = away
    const first = open()
    act(() => first.result.current.mark('s1', 'prompted'))
    await at.settle()
    const id = first.result.current.unsent[0]!.id
    first.unmount()
    at.reply = form
    open()
    await at.settle()
    expect(at.sent).toEqual([{ marks: [expect.objectContaining({ id, stepId: 's1', mark: 'prompted' })] }])
  })

  it('sent by another window are sent no more from this one', async () => {
    at.reply = away
    const { result } = open()
    act(() => result.current.mark('s1', 'unprompted'))
    await at.settle()
    localStorage.removeItem(key)
    at.reply = form
    await at.later()
    expect(at.sent).toEqual([])
    expect(result.current.unsent).toEqual([])
  })
})
