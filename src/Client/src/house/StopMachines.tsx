import { useAction } from '../kit/Act'
import { useState, type SubmitEvent } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { answer, client, type Schemas } from '../kit/api'
import { Failure, Field, fieldErrors, RunOn } from '../kit/parts'
import { useMachines } from '../kit/session'

/** The machines in service, each to be stopped, where nothing else of them is shown. */
export function StopMachines() {
  const machines = useMachines()
  return (
    <section className="sheetgroup">
      <RunOn title="Something wrong at a machine" />
      <ul className="plainlist">
        {machines.data?.map((m) => (
          <li key={m.id}>
            {m.stop ? `${m.name} is stopped. ` : <ReasonAct machine={m} />} <a href={`/emergency/${m.id}`}>Its card</a>
          </li>
        ))}
      </ul>
    </section>
  )
}

/** One press and a sentence: stops a machine, or returns it where a stop is given. */
export function ReasonAct({ machine, stop }: { machine: Schemas['MachineResponse']; stop?: string }) {
  const [open, setOpen] = useState(false)
  const [reason, setReason] = useState('')
  const [optics, setOptics] = useState<boolean | null>(null)
  const [noted, setNoted] = useState<string | null>(null)
  const act = useAction(
    (): Promise<unknown> =>
      stop
        ? answer(
            client.POST('/api/machines/{id}/return', {
              params: { path: { id: machine.id } },
              body: { reason, opticsTouched: optics },
            }),
          )
        : answer(client.POST('/api/machines/{id}/stops', { params: { path: { id: machine.id } }, body: { reason } })),
    (answered) => {
      setNoted((answered as Schemas['HoldResponse'] | undefined)?.text ?? null)
      setOpen(false)
      setReason('')
    },
  )
  const errors = fieldErrors(act.error)
  const verb = stop ? 'Return' : 'Stop'
  if (!open)
    return (
      <>
        {stop && noted && <p role="status">{noted}</p>}
        <Button variant={stop ? 'outline-primary' : 'danger'} onClick={() => setOpen(true)}>
          {verb} {machine.name}
          {stop ? ' to service' : ''}
        </Button>
      </>
    )
  return (
    <Form
      noValidate
      onSubmit={(event: SubmitEvent) => {
        event.preventDefault()
        act.mutate()
      }}
    >
      <Field
        label={stop ? 'What was done and checked' : 'What is wrong'}
        id={`reason-${machine.id}`}
        error={errors.reason}
      >
        <Form.Control
          id={`reason-${machine.id}`}
          autoFocus
          value={reason}
          isInvalid={!!errors.reason}
          onChange={(event) => setReason(event.target.value)}
        />
      </Field>
      {stop && (
        <fieldset className="mb-2">
          <legend className="form-label">Were lens, mirrors, tube or alignment touched?</legend>
          {([true, false] as const).map((touched) => (
            <Form.Check
              key={String(touched)}
              type="radio"
              name={`optics-${machine.id}`}
              id={`optics-${machine.id}-${touched}`}
              label={touched ? 'Yes, or nobody is sure: settings are tested again' : 'No'}
              checked={optics === touched}
              onChange={() => setOptics(touched)}
            />
          ))}
        </fieldset>
      )}
      {act.isError && !errors.reason && <Failure error={act.error} />}
      <div className="d-flex gap-2">
        <Button
          type="submit"
          variant={stop ? 'primary' : 'danger'}
          disabled={act.isPending || (!!stop && optics === null)}
        >
          {verb} {machine.name} now
        </Button>
        <Button variant="outline-primary" onClick={() => setOpen(false)}>
          Cancel
        </Button>
      </div>
    </Form>
  )
}
