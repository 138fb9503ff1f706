import { useAction } from '../kit/Act'
import { useQuery } from '@tanstack/react-query'
import { useState, type SubmitEvent } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { foundingQuery } from '../house'
import { answer, client, type Schemas } from '../kit/api'
import { Failure, Field, fieldErrors, RunOn } from '../kit/parts'
import { useSession } from '../kit/session'
import { Standing } from '../kit/Standing'

/** First authorities on machines that had nobody to sign: confirmed, or shown as not confirmed. */
export function Founding({ machines }: { machines: Schemas['MachineResponse'][] }) {
  const founding = useQuery(foundingQuery)
  if (!founding.data || founding.data.length === 0) return null
  return (
    <section className="mb-3">
      <RunOn title="Founding sign-offs" after={founding.data.length} />
      <ul className="plainlist">
        {founding.data.map((f) => (
          <One key={f.id} founding={f} machine={machines.find((m) => m.id === f.machineId)?.name ?? f.machineId} />
        ))}
      </ul>
    </section>
  )
}

function One({ founding, machine }: { founding: Schemas['FoundingResponse']; machine: string }) {
  const { time } = useSession()
  const [reason, setReason] = useState('')
  const confirm = useAction(() =>
    answer(
      client.POST('/api/founding-sign-offs/{id}/confirm', {
        params: { path: { id: founding.id } },
        body: { reason },
      }),
    ),
  )
  const errors = fieldErrors(confirm.error)
  return (
    <li>
      <b>{founding.name}</b> on {machine}, to {time.date(Date.parse(founding.ends) - 1)}.{' '}
      <Standing
        standing={founding.confirmed ? 'clear' : 'caution'}
        word={founding.confirmed ? 'Confirmed' : 'Nobody has confirmed it yet'}
        width={18}
      />{' '}
      {founding.evidence}
      {founding.mayConfirm && (
        <Form
          noValidate
          className="inlineform mt-1"
          onSubmit={(event: SubmitEvent) => {
            event.preventDefault()
            confirm.mutate()
          }}
        >
          <Field id={`confirm-${founding.id}`} label="What you saw of the evidence" error={errors.reason}>
            <Form.Control
              id={`confirm-${founding.id}`}
              value={reason}
              isInvalid={!!errors.reason}
              onChange={(event) => setReason(event.target.value)}
            />
          </Field>
          <Button type="submit" size="sm" className="mb-2" disabled={confirm.isPending}>
            Confirm it
          </Button>
          {confirm.isError && !errors.reason && <Failure error={confirm.error} />}
        </Form>
      )}
    </li>
  )
}
