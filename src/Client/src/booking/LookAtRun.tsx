import { useAction } from '../kit/Act'
import { useState, type SubmitEvent } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { answer, client, type Schemas } from '../kit/api'
import { Failure, Field, fieldErrors } from '../kit/parts'
import { useSession } from '../kit/session'
import bookingsCss from './bookings.module.css'

/** A run that no rule allowed, that nobody stands behind, or at which a flame stayed: what a steward found. */
export function LookAtRun({ run, machine }: { run: Schemas['RunResponse']; machine: string }) {
  const { time } = useSession()
  const [open, setOpen] = useState(false)
  return (
    <li data-tolook={run.id}>
      <span className="when">
        <b>{time.day(run.start)} </b>
        <b>{time.clock(run.start)}</b>
      </span>
      <span>{machine}</span>
      <span className={bookingsCss.name}>{run.name}</span>
      <span>{run.why}</span>
      <span className={bookingsCss.act}>
        {run.mayLook ? (
          <Button size="sm" variant="outline-primary" onClick={() => setOpen(!open)}>
            I have looked
          </Button>
        ) : (
          <span className="quiet">a steward looks at it</span>
        )}
      </span>
      {open && <Found run={run} />}
    </li>
  )
}

function Found({ run }: { run: Schemas['RunResponse'] }) {
  const [reason, setReason] = useState('')
  const [counts, setCounts] = useState(false)
  const look = useAction(() =>
    answer(client.POST('/api/runs/{id}/look', { params: { path: { id: run.id } }, body: { reason, counts } })),
  )
  const errors = fieldErrors(look.error)
  return (
    <Form
      noValidate
      className={bookingsCss.logrun}
      onSubmit={(event: SubmitEvent) => {
        event.preventDefault()
        look.mutate()
      }}
    >
      <Field label="What you found" id={`look-${run.id}`} error={errors.reason}>
        <Form.Control
          id={`look-${run.id}`}
          value={reason}
          isInvalid={!!errors.reason}
          onChange={(event) => setReason(event.target.value)}
        />
      </Field>
      {run.against.length === 0 && (
        <Form.Check
          id={`counts-${run.id}`}
          label="I vouch for this run: it counts as practice"
          checked={counts}
          onChange={(event) => setCounts(event.target.checked)}
        />
      )}
      {look.isError && !errors.reason && <Failure error={look.error} />}
      <Button type="submit" disabled={look.isPending}>
        Save
      </Button>
    </Form>
  )
}
