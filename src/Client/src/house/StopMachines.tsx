import { useAction } from '../kit/Act'
import { useState, type SubmitEvent } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { answer, client, type Schemas } from '../kit/api'
import { Failure, Field, fieldErrors, RunOn } from '../kit/parts'
import { useMachines } from '../kit/session'
import { ReturnForm } from '../upkeep'

/** The machines in service, each to be stopped, where nothing else of them is shown. */
export function StopMachines() {
  const machines = useMachines()
  return (
    <section className="sheetgroup">
      <RunOn title="Something wrong at a machine" />
      <ul className="plainlist">
        {machines.data?.map((m) => (
          <li key={m.id}>
            {m.stop ? `${m.name} is stopped. ` : <StopAct machine={m} />} <a href={`/emergency/${m.id}`}>Its card</a>
          </li>
        ))}
      </ul>
    </section>
  )
}

/** One press and a sentence: stops a machine. */
export function StopAct({ machine }: { machine: Schemas['MachineResponse'] }) {
  const [open, setOpen] = useState(false)
  const [reason, setReason] = useState('')
  const act = useAction(
    () => answer(client.POST('/api/machines/{id}/stops', { params: { path: { id: machine.id } }, body: { reason } })),
    () => {
      setOpen(false)
      setReason('')
    },
  )
  const errors = fieldErrors(act.error)
  if (!open)
    return (
      <Button variant="danger" onClick={() => setOpen(true)}>
        Stop {machine.name}
      </Button>
    )
  return (
    <Form
      noValidate
      onSubmit={(event: SubmitEvent) => {
        event.preventDefault()
        act.mutate()
      }}
    >
      <Field label="What is wrong" id={`reason-${machine.id}`} error={errors.reason}>
        <Form.Control
          id={`reason-${machine.id}`}
          autoFocus
          value={reason}
          isInvalid={!!errors.reason}
          onChange={(event) => setReason(event.target.value)}
        />
      </Field>
      {act.isError && !errors.reason && <Failure error={act.error} />}
      <div className="d-flex gap-2">
        <Button type="submit" variant="danger" disabled={act.isPending}>
          Stop {machine.name} now
        </Button>
        <Button variant="outline-primary" onClick={() => setOpen(false)}>
          Cancel
        </Button>
      </div>
    </Form>
  )
}

/** Back into service, by what was touched. */
export function ReturnAct({ machine }: { machine: Schemas['MachineResponse'] }) {
  const [open, setOpen] = useState(false)
  const [noted, setNoted] = useState<string | null>(null)
  if (open)
    return (
      <ReturnForm
        machine={machine}
        close={(text) => {
          setNoted(text)
          setOpen(false)
        }}
      />
    )
  return (
    <>
      {noted && <p role="status">{noted}</p>}
      <Button variant="outline-primary" onClick={() => setOpen(true)}>
        Return {machine.name} to service
      </Button>
    </>
  )
}
