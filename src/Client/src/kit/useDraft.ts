import { useState } from 'react'

/** What is typed into a form of several fields; `of` gives a field what it needs: its value, how to change it, what is wrong with it. */
export function useDraft<T extends Record<string, string>>(empty: T) {
  const [draft, setDraft] = useState(empty)
  const put = (changed: Partial<T>) => setDraft((before) => ({ ...before, ...changed }))
  return {
    draft,
    put,
    clear: () => setDraft(empty),
    of: (field: keyof T & string, errors: Record<string, string[]>) => ({
      value: draft[field]!,
      put: (value: string) => put({ [field]: value } as Partial<T>),
      error: errors[field],
    }),
  }
}
