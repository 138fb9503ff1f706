import { useMutation, useQueryClient } from '@tanstack/react-query'
import type { SubmitEvent, ReactNode } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { Failure, fieldErrors } from './parts'

/**
 * Something that changes the house: what is on screen is fetched anew when it is done. Not where it was refused: what was
 * typed stays, with what is wrong beside it.
 */
export function useAction<T, V = void>(act: (values: V) => Promise<T>, done?: (made: T) => unknown) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: act,
    onSuccess: async (made) => {
      await queries.invalidateQueries({ queryKey: ['live'] })
      await done?.(made)
    },
  })
}

/** A press with nothing typed: where it was refused, somebody else was faster, and what is on screen is fetched anew too. */
export function usePress<T, V = void>(act: (values: V) => Promise<T>) {
  const queries = useQueryClient()
  return useMutation({ mutationFn: act, onSettled: () => queries.invalidateQueries({ queryKey: ['live'] }) })
}

/** A form with one button. What is wrong with a field is said there; the rest below; what was typed stays. */
export function Act({
  act,
  button,
  fields,
  danger,
  done,
  children,
}: {
  act: { mutate: () => void; isPending: boolean; error: unknown }
  button: string
  /** Fields that show their own errors. */
  fields: string[]
  danger?: boolean
  done?: ReactNode
  children: ReactNode
}) {
  const own = Object.keys(fieldErrors(act.error))
  return (
    <Form
      noValidate
      onSubmit={(event: SubmitEvent) => {
        event.preventDefault()
        act.mutate()
      }}
    >
      {children}
      <Button type="submit" size="sm" variant={danger ? 'danger' : 'primary'} disabled={act.isPending}>
        {button}
      </Button>
      {!!act.error && !(own.length > 0 && own.every((f) => fields.includes(f))) && <Failure error={act.error} />}
      {done && (
        <p role="status" className="mt-2 mb-0">
          <b>{done}</b>
        </p>
      )}
    </Form>
  )
}

/** A quieter act that opens when asked for. */
export function Fold({ title, children }: { title: string; children: ReactNode }) {
  return (
    <details className="fold">
      <summary>{title}</summary>
      {children}
    </details>
  )
}
