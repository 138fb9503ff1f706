import { QueryClient, QueryClientProvider, useQuery } from '@tanstack/react-query'
import { act, renderHook, waitFor } from '@testing-library/react'
import type { ReactNode } from 'react'
import { describe, expect, it } from 'vitest'
import { useAction, usePress } from '../src/kit/Act'

/** Counts how often what is on screen was fetched. */
function screen<T>(use: (fetched: () => number) => T) {
  const queries = new QueryClient({ defaultOptions: { queries: { retry: false } } })
  let fetched = 0
  const shown = renderHook(
    () => {
      useQuery({ queryKey: ['live', 'shown'], queryFn: () => Promise.resolve(++fetched) })
      return use(() => fetched)
    },
    {
      wrapper: ({ children }: { children: ReactNode }) => (
        <QueryClientProvider client={queries}>{children}</QueryClientProvider>
      ),
    },
  )
  return { shown, fetched: () => fetched }
}

const refused = () => Promise.reject(new Error('Somebody was faster.'))

describe('what is on screen', () => {
  it('is fetched anew once something was done, before the form is told', async () => {
    const told: number[] = []
    const { shown, fetched } = screen((seen: () => number) =>
      useAction(
        () => Promise.resolve('made'),
        () => told.push(seen()),
      ),
    )
    await waitFor(() => expect(fetched()).toBe(1))
    await act(() => shown.result.current.mutateAsync())
    expect(told).toEqual([2])
  })

  it('stays as it is where something typed was refused: nothing typed is fetched away', async () => {
    const { shown, fetched } = screen(() => useAction(refused))
    await waitFor(() => expect(fetched()).toBe(1))
    await act(() => shown.result.current.mutateAsync().catch(() => undefined))
    await waitFor(() => expect(shown.result.current.isError).toBe(true))
    expect(fetched()).toBe(1)
  })

  it('is fetched anew where a mere press was refused', async () => {
    const { shown, fetched } = screen(() => usePress(refused))
    await waitFor(() => expect(fetched()).toBe(1))
    await act(() => shown.result.current.mutateAsync().catch(() => undefined))
    await waitFor(() => expect(fetched()).toBe(2))
  })
})
