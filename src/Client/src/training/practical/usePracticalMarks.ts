import { useQueryClient } from '@tanstack/react-query'
import { useCallback, useEffect, useRef, useState } from 'react'
import { answer, ApiError, client, type Schemas } from '../../kit/api'

export interface OwnMark {
  id: string
  stepId: string
  mark: Schemas['StepMark']
  note?: string
  at: string
}

const RETRY_MS = 3000

const read = (key: string): OwnMark[] => {
  try {
    return JSON.parse(localStorage.getItem(key) ?? '[]') as OwnMark[]
  } catch {
    return []
  }
}

/**
 * Marks on a practical sheet. Each is shown at once and kept on this device until the server has it: through a lost connection, a
 * reload, and with another window open on the same sheet. Every mark has an id of its own, so that one sent twice is one.
 */
export function usePracticalMarks(id: string, now: () => number) {
  const key = `velvet-gate-practical-${id}`
  const queries = useQueryClient()
  const [unsent, setUnsent] = useState(() => read(key))
  const [error, setError] = useState<unknown>(null)
  const busy = useRef(false)

  // The device is the truth: another window may have sent what waited here.
  const keep = useCallback(
    (change: (waiting: OwnMark[]) => OwnMark[]) => {
      const next = change(read(key))
      if (next.length === 0) localStorage.removeItem(key)
      else localStorage.setItem(key, JSON.stringify(next))
      setUnsent(next)
    },
    [key],
  )

  const send = useCallback(async () => {
    if (busy.current) return
    busy.current = true
    try {
      for (;;) {
        const waiting = read(key)
        if (waiting.length === 0) break
        const sheet = await answer(
          client.POST('/api/practicals/{id}/marks', { params: { path: { id } }, body: { marks: waiting } }),
        )
        const sent = new Set(waiting.map((m) => m.id))
        queries.setQueryData(['live', 'practical', id], sheet)
        keep((all) => all.filter((m) => !sent.has(m.id)))
        setError(null)
      }
    } catch (e) {
      setError(e)
      // What the server refuses will not be taken later either.
      if (e instanceof ApiError && e.problem.status && e.problem.status < 500 && e.problem.status !== 401)
        keep(() => [])
    } finally {
      busy.current = false
    }
  }, [id, keep, key, queries])

  useEffect(() => {
    const again = () => {
      setUnsent(read(key))
      if (read(key).length > 0) void send()
    }
    again()
    const timer = setInterval(again, RETRY_MS)
    window.addEventListener('online', again)
    return () => {
      clearInterval(timer)
      window.removeEventListener('online', again)
    }
  }, [key, send])

  const mark = (stepId: string, word: OwnMark['mark'], note?: string) => {
    keep((all) => [...all, { id: crypto.randomUUID(), stepId, mark: word, note, at: new Date(now()).toISOString() }])
    void send()
  }
  return { unsent, mark, error }
}
