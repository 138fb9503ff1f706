import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { useSearchParams } from 'react-router'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { answer, client } from '../kit/api'
import { Failure, fieldErrors, SelectField, TextField } from '../kit/parts'
import { useMachines } from '../kit/session'
import { useUnit } from '../kit/units'
import css from './drawings.module.css'

const plays = [
  ['0', 'exact'],
  ['0.05', 'a little loose, 0.05 mm'],
  ['0.1', 'loose, 0.1 mm'],
  ['-0.05', 'a little tight, 0.05 mm'],
  ['-0.1', 'tight, 0.1 mm'],
] as const

const blanks: readonly [string, string, string?][] = [
  ['width', 'Width'],
  ['depth', 'Depth'],
  ['height', 'Height'],
  ['thickness', 'Sheet, as measured'],
  ['kerf', 'Kerf', 'the machine’s'],
  ['finger', 'Fingers, about', 'three times the sheet'],
]

/** Draws a box of finger joints from a measured sheet and kerf. */
export function Box({ open }: { open: (drawing: string, thickness: string) => void }) {
  const unit = useUnit()
  const queries = useQueryClient()
  const machines = useMachines().data ?? []
  const [machine, setMachine] = useState<string>()
  // A kerf comb that was measured brings its kerf and sheet along.
  const [given] = useSearchParams()
  const brought = given.get('kerf')
  const [typed, setTyped] = useState<Record<string, string>>(
    brought ? { kerf: brought, thickness: given.get('sheet') ?? '' } : {},
  )
  const [inside, setInside] = useState(true)
  const [lid, setLid] = useState(true)
  const [play, setPlay] = useState<string>('0')
  const machineId = machine ?? machines[0]?.id
  const make = useMutation({
    mutationFn: () =>
      answer(
        client.POST('/api/drawings/box', {
          body: { ...typed, inside, lid, playMm: Number(play), machineId, unit },
        }),
      ),
    onSuccess: async (made) => {
      await queries.invalidateQueries({ queryKey: ['drawings'] })
      open(made.id, typed['thickness'] ?? '')
    },
  })
  const errors = fieldErrors(make.error)
  return (
    <details className="mt-3" open={brought !== null}>
      <summary>Draw a box with finger joints</summary>
      <Form
        noValidate
        className={css.box}
        onSubmit={(event) => {
          event.preventDefault()
          make.mutate()
        }}
      >
        {blanks.map(([key, label, usual]) => (
          <TextField
            key={key}
            id={`box-${key}`}
            label={label}
            {...(usual && { placeholder: usual })}
            value={typed[key] ?? ''}
            put={(value) => setTyped((before) => ({ ...before, [key]: value }))}
            error={errors[key]}
          />
        ))}
        <SelectField
          id="box-machine"
          label="Machine"
          value={machineId ?? ''}
          put={setMachine}
          options={machines.map((m) => [m.id, m.name] as const)}
        />
        <SelectField id="box-play" label="Joints" value={play} put={setPlay} options={plays} error={errors.play} />
        <Form.Check
          id="box-inside"
          label="The sizes are of the room inside"
          checked={inside}
          onChange={(event) => setInside(event.target.checked)}
        />
        <Form.Check id="box-lid" label="With a lid" checked={lid} onChange={(event) => setLid(event.target.checked)} />
        <div>
          <Button type="submit" disabled={make.isPending}>
            Draw it
          </Button>
          {make.isError && Object.keys(errors).length === 0 && <Failure error={make.error} />}
        </div>
        <p className="small quiet mb-0">
          A label is a tenth off: measure the sheet. How joints hold is found with a joint ladder, and the kerf with a
          kerf comb, under Test pieces.
        </p>
      </Form>
    </details>
  )
}
