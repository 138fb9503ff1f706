import { useState, type SubmitEvent } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { useAction } from '../kit/Act'
import { answer, client, type Schemas } from '../kit/api'
import { Choices } from '../kit/Choices'
import { Failure, fieldErrors, TextField } from '../kit/parts'
import { numberOf } from './numbers'

const parts = [
  ['optics', 'lens or mirrors, beyond cleaning'],
  ['tube', 'tube'],
  ['alignment', 'alignment'],
  ['interlock', 'interlock, key, stops or relay'],
  ['extraction', 'fan, filter or duct'],
  ['coolant', 'cooling'],
  ['other', 'something else'],
] as const
type Part = (typeof parts)[number][0]

/** Back into service: nothing was touched, or what was, and what was tried. */
export function ReturnForm({
  machine,
  close,
}: {
  machine: Schemas['MachineResponse']
  close: (noted: string | null) => void
}) {
  const [reason, setReason] = useState('')
  const [nothing, setNothing] = useState<boolean | null>(null)
  const [touched, setTouched] = useState<Part[]>([])
  const [tried, setTried] = useState<('interlock' | 'testFire' | 'framed')[]>([])
  const [airflow, setAirflow] = useState('')
  const [coolant, setCoolant] = useState('')
  const act = useAction(
    (): Promise<unknown> =>
      answer(
        client.POST('/api/machines/{id}/return', {
          params: { path: { id: machine.id } },
          body: {
            reason,
            touched: nothing === null ? null : nothing ? [] : touched,
            tested: {
              interlock: tried.includes('interlock'),
              airflowM3PerHour: numberOf(airflow),
              coolantC: numberOf(coolant),
              testFire: tried.includes('testFire'),
              framed: tried.includes('framed'),
            },
          },
        }),
      ),
    (answered) => close((answered as Schemas['HoldResponse'] | undefined)?.text ?? null),
  )
  const errors = fieldErrors(act.error)
  const own = ['reason', 'touched', 'tested.airflowM3PerHour', 'tested.coolantC']
  const elsewhere = Object.keys(errors).some((f) => !own.includes(f))
  return (
    <Form
      noValidate
      onSubmit={(event: SubmitEvent) => {
        event.preventDefault()
        act.mutate()
      }}
    >
      <TextField
        id={`reason-${machine.id}`}
        label="What was done and checked"
        error={errors.reason}
        autoFocus
        value={reason}
        put={setReason}
      />
      <fieldset className="mb-2">
        <legend className="form-label">Was anything touched?</legend>
        {([true, false] as const).map((none) => (
          <Form.Check
            key={String(none)}
            type="radio"
            name={`touched-${machine.id}`}
            id={`touched-${machine.id}-${none ? 'nothing' : 'something'}`}
            label={
              none ? 'Nothing: looked at, cleaned, found in order' : 'Yes, or nobody is sure: by whoever may repair it'
            }
            checked={nothing === none}
            onChange={() => setNothing(none)}
          />
        ))}
      </fieldset>
      {nothing === false && (
        <>
          <Choices
            id={`parts-${machine.id}`}
            label="What was touched"
            options={parts}
            chosen={touched}
            put={setTouched}
            error={errors.touched}
          />
          <Choices
            id={`tried-${machine.id}`}
            label="Tried, before it comes back"
            options={
              [
                ['interlock', 'lid opened: the beam is gone at once; the stops stop'],
                ['testFire', 'test fire at low power, on scrap'],
                ['framed', 'the frame lies where it should'],
              ] as const
            }
            chosen={tried}
            put={setTried}
          />
          <TextField
            id={`airflow-${machine.id}`}
            label="Airflow read, m³/h"
            error={errors['tested.airflowM3PerHour']}
            inputMode="decimal"
            value={airflow}
            put={setAirflow}
          />
          {machine.waterCooled && (
            <TextField
              id={`coolant-${machine.id}`}
              label="Coolant read, °C"
              error={errors['tested.coolantC']}
              inputMode="decimal"
              value={coolant}
              put={setCoolant}
            />
          )}
          {touched.some((t) => t === 'optics' || t === 'tube' || t === 'alignment') && (
            <p className="small">
              Settings and kerf of {machine.name} are tested again after this: a test piece first.
            </p>
          )}
          {touched.includes('interlock') && (
            <p className="small">A second person with authority tries it too, and says so here.</p>
          )}
        </>
      )}
      {nothing && errors.touched && <Failure error={act.error} />}
      {act.isError && (Object.keys(errors).length === 0 || elsewhere) && <Failure error={act.error} />}
      <div className="d-flex gap-2">
        <Button type="submit" disabled={act.isPending || nothing === null || (!nothing && touched.length === 0)}>
          Return {machine.name} now
        </Button>
        <Button variant="outline-primary" onClick={() => close(null)}>
          Cancel
        </Button>
      </div>
    </Form>
  )
}
