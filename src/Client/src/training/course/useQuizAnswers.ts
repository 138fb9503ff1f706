import { useCallback, useEffect, useRef, useState } from 'react'
import { answer, ApiError, client, type Schemas } from '../../kit/api'

type Answers = Record<string, number[]>
const RETRY_MS = 3000

const read = (key: string): Answers => {
  try {
    return JSON.parse(localStorage.getItem(key) ?? '{}') as Answers
  } catch {
    return {}
  }
}

/**
 * The answers of an attempt. Each goes to the server when it is given; what has not arrived stays on this device, through a reload
 * and without a connection, and is sent again until it has.
 */
export function useQuizAnswers(attempt: Schemas['AttemptResponse']) {
  const key = `velvet-gate-quiz-${attempt.id}`
  const [unsent, setUnsent] = useState(() => read(key))
  const [error, setError] = useState<unknown>(null)
  const waiting = useRef(unsent)
  const sending = useRef<Promise<boolean> | null>(null)
  const [given, setGiven] = useState<Answers>(() => ({
    ...Object.fromEntries(attempt.questions.map((q) => [q.id, q.answer])),
    ...read(key),
  }))

  const keep = useCallback(
    (next: Answers) => {
      waiting.current = next
      setUnsent(next)
      if (Object.keys(next).length === 0) localStorage.removeItem(key)
      else localStorage.setItem(key, JSON.stringify(next))
    },
    [key],
  )

  /** Sends what waits, one after the other; true when nothing waits any more. */
  const send = useCallback((): Promise<boolean> => {
    sending.current ??= (async () => {
      try {
        for (;;) {
          const [entry] = Object.entries(waiting.current)
          if (!entry) return true
          const [question, places] = entry
          const params = { path: { id: attempt.id, question } }
          await answer(
            client.PUT('/api/training/attempts/{id}/answers/{question}', { params, body: { answer: places } }),
          )
          // Changed again meanwhile: then it is sent again.
          if (waiting.current[question] === places)
            keep(Object.fromEntries(Object.entries(waiting.current).filter(([id]) => id !== question)))
          setError(null)
        }
      } catch (e) {
        setError(e)
        // What the server refuses will not be taken later either.
        if (e instanceof ApiError && e.problem.status && e.problem.status < 500 && e.problem.status !== 401) keep({})
        return false
      } finally {
        sending.current = null
      }
    })()
    return sending.current
  }, [attempt.id, keep])

  useEffect(() => {
    if (attempt.ended) {
      localStorage.removeItem(key)
      return
    }
    const again = () => {
      if (Object.keys(waiting.current).length > 0) void send()
    }
    again()
    const timer = setInterval(again, RETRY_MS)
    window.addEventListener('online', again)
    return () => {
      clearInterval(timer)
      window.removeEventListener('online', again)
    }
  }, [attempt.ended, key, send])

  const give = (question: string, places: number[]) => {
    setGiven((before) => ({ ...before, [question]: places }))
    keep({ ...waiting.current, [question]: places })
    void send()
  }
  return { given, give, send, unsent: Object.keys(unsent).length, error }
}
