import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { answer, client, type Schemas } from '../shared/api'
import { Failure, Field } from '../shared/parts'
import { lengthIn, useUnit } from '../shared/units'

const usualAcross = 20
const mmIn = { mm: 1, in: 25.4 }

/** Where the clamps of a drawing stand, and how they are marked and taken off. */
export function useClamps(id: string, clamps: Schemas['Clamp'][]) {
  const queries = useQueryClient()
  const put = useMutation({
    mutationFn: (after: Schemas['Clamp'][]) =>
      answer(
        client.PUT('/api/drawings/{id}/clamps', { params: { path: { id } }, body: { before: clamps, clamps: after } }),
      ),
    // Seen at once, so that the next one is not taken for that of another window.
    onSuccess: (made) =>
      queries.setQueriesData<Schemas['CheckAnswer']>({ queryKey: ['live', 'check', id] }, (old) =>
        old ? { ...old, clamps: made.clamps } : old,
      ),
    onSettled: () => queries.invalidateQueries({ queryKey: ['live', 'check', id] }),
  })
  return {
    error: put.isError ? put.error : undefined,
    busy: put.isPending,
    add: (x: number, y: number, done?: () => void) =>
      put.mutate([...clamps, { x: Math.round(x * 10) / 10, y: Math.round(y * 10) / 10, across: usualAcross }], {
        onSuccess: done,
      }),
    remove: (number: number) => put.mutate(clamps.filter((_, i) => i !== number)),
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
  const [typed, setTyped] = useState({ x: '', y: '' })
  const [wrong, setWrong] = useState<Partial<Record<'x' | 'y', string>>>({})
  const read = (text: string) => (text.trim() === '' ? NaN : Number(text.trim().replace(',', '.')) * mmIn[unit])
  const byHand = () => {
    const [x, y] = [read(typed.x), read(typed.y)]
    const say = `Write a number of ${unit}.`
    setWrong({ x: Number.isFinite(x) ? undefined : say, y: Number.isFinite(y) ? undefined : say })
    if (!Number.isFinite(x) || !Number.isFinite(y)) return
    edit.add(x, y, () => setTyped({ x: '', y: '' }))
  }
  return (
    <details className="clamps" open={clamps.length > 0 || undefined}>
      <summary>Clamps and weights on the sheet{clamps.length > 0 && `, ${clamps.length} marked`}</summary>
      <p className="small quiet mb-2">Mark what holds the sheet: a finding says when it stands in the head’s way.</p>
      {clamps.length > 0 && (
        <ol className="clamplist">
          {clamps.map((clamp, i) => (
            <li key={`${i} ${clamp.x} ${clamp.y}`}>
              <span>
                at {lengthIn(unit, clamp.x)} × {lengthIn(unit, clamp.y)} {unit}
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
      <div className="clampadd">
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
            byHand()
          }}
        >
          {(['x', 'y'] as const).map((axis) => (
            <Field
              key={axis}
              label={`${axis === 'x' ? 'Across' : upwards ? 'Up' : 'Down'}, ${unit}`}
              id={`clamp-${axis}`}
              error={wrong[axis] ? [wrong[axis]] : undefined}
            >
              <Form.Control
                id={`clamp-${axis}`}
                value={typed[axis]}
                inputMode="decimal"
                isInvalid={!!wrong[axis]}
                onChange={(event) => setTyped({ ...typed, [axis]: event.target.value })}
              />
            </Field>
          ))}
          <Button type="submit" variant="outline-primary" size="sm" disabled={edit.busy}>
            Mark there
          </Button>
        </Form>
      </div>
      {edit.error && <Failure error={edit.error} />}
    </details>
  )
}
