import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { answer, client, type Schemas } from '../kit/api'
import { Failure, Field, fieldErrors } from '../kit/parts'
import { lengthIn, useUnit } from '../kit/units'
import drawingsCss from './drawings.module.css'

const blanks = ['x', 'y', 'across'] as const
const empty = { x: '', y: '', across: '' }

/** Where the clamps of a drawing stand, and how they are marked and taken off. */
export function useClamps(id: string, clamps: Schemas['Clamp'][]) {
  const unit = useUnit()
  const queries = useQueryClient()
  const put = useMutation({
    mutationFn: (change: Pick<Schemas['ClampsRequest'], 'clamps' | 'add'>) =>
      answer(
        client.PUT('/api/drawings/{id}/clamps', {
          params: { path: { id } },
          body: { before: clamps, unit, ...change },
        }),
      ),
    // Seen at once, so that the next one is not taken for that of another window.
    onSuccess: (made) =>
      queries.setQueriesData<Schemas['CheckResponse']>({ queryKey: ['live', 'check', id] }, (old) =>
        old ? { ...old, clamps: made.clamps } : old,
      ),
    onSettled: () => queries.invalidateQueries({ queryKey: ['live', 'check', id] }),
  })
  return {
    error: put.isError ? put.error : undefined,
    busy: put.isPending,
    add: (add: Schemas['ClampWords'], done?: () => void) => put.mutate({ clamps, add }, { onSuccess: done }),
    remove: (number: number) => put.mutate({ clamps: clamps.filter((_, i) => i !== number) }),
  }
}

/** The clamps as a list, and two blanks to mark one without pointing. */
export function Clamps({
  clamps,
  upwards,
  edit,
  marking,
  setMarking,
}: {
  clamps: Schemas['Clamp'][]
  /** In a DXF, places are counted upwards. */
  upwards: boolean
  edit: ReturnType<typeof useClamps>
  marking: boolean
  setMarking: (on: boolean) => void
}) {
  const unit = useUnit()
  const [typed, setTyped] = useState(empty)
  const errors = fieldErrors(edit.error)
  const labels = { x: 'Across', y: upwards ? 'Up' : 'Down', across: 'Its size, if known' }
  return (
    <details className={drawingsCss.clamps} open={clamps.length > 0 || undefined}>
      <summary>Clamps and weights on the sheet{clamps.length > 0 && `, ${clamps.length} marked`}</summary>
      <p className="small quiet mb-2">Mark what holds the sheet: a finding says when it stands in the head’s way.</p>
      {clamps.length > 0 && (
        <ol className={drawingsCss.clamplist}>
          {clamps.map((clamp, i) => (
            <li key={`${i} ${clamp.x} ${clamp.y}`}>
              <span>
                at {lengthIn(unit, clamp.x)} × {lengthIn(unit, clamp.y)} {unit}, {lengthIn(unit, clamp.across)} wide
              </span>
              <Button
                variant="outline-primary"
                size="sm"
                disabled={edit.busy}
                aria-label={`Take off clamp ${i + 1}`}
                onClick={() => edit.remove(i)}
              >
                Take off
              </Button>
            </li>
          ))}
        </ol>
      )}
      <div className={drawingsCss.clampadd}>
        <Button
          variant={marking ? 'primary' : 'outline-primary'}
          size="sm"
          aria-pressed={marking}
          disabled={edit.busy}
          onClick={() => setMarking(!marking)}
        >
          {marking ? 'Now press on the drawing' : 'Mark on the drawing'}
        </Button>
        <Form
          onSubmit={(event) => {
            event.preventDefault()
            edit.add(typed, () => setTyped(empty))
          }}
        >
          {blanks.map((blank) => (
            <Field key={blank} label={labels[blank]} id={`clamp-${blank}`} error={errors[blank]}>
              <Form.Control
                id={`clamp-${blank}`}
                value={typed[blank]}
                isInvalid={!!errors[blank]}
                onChange={(event) => setTyped({ ...typed, [blank]: event.target.value })}
              />
            </Field>
          ))}
          <Button type="submit" variant="outline-primary" size="sm" disabled={edit.busy}>
            Mark there
          </Button>
        </Form>
      </div>
      {edit.error && !blanks.some((blank) => errors[blank]) && <Failure error={edit.error} />}
    </details>
  )
}
