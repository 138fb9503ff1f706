import { useState } from 'react'
import Form from 'react-bootstrap/Form'
import { Link } from 'react-router'
import { Act, Fold, useAction } from '../kit/Act'
import { answer, client, type Schemas } from '../kit/api'
import { Field, fieldErrors } from '../kit/parts'
import { dayQuery, useSession } from '../kit/session'
import { useQueryClient } from '@tanstack/react-query'

/** Where nothing is free when somebody can come: a place on the waiting list. */
export function WaitForTime({
  job,
  machines,
  until,
}: {
  job: Schemas['GateQuestionRequest']
  machines: Schemas['MachineTimesResponse'][]
  /** The last day to begin with, such as 2026-12-08. */
  until: string
}) {
  const { now, time } = useSession()
  const queries = useQueryClient()
  const [from, setFrom] = useState(() => time.iso(now()))
  const [to, setTo] = useState(until)
  const [left, setLeft] = useState<string[]>([])
  const [id, setId] = useState(() => crypto.randomUUID())
  const wait = useAction(
    async () => {
      // What a day is on the house’s clock is the server’s to say.
      const [first, last] = await Promise.all([from, to].map((day) => queries.query(dayQuery(day))))
      const next = await queries.query(dayQuery(last!.next))
      return answer(
        client.POST('/api/waiting', {
          body: {
            ...job,
            id,
            machineIds: machines.map((m) => m.machineId).filter((m) => !left.includes(m)),
            from: first!.starts,
            to: next.starts,
          },
        }),
      )
    },
    () => setId(crypto.randomUUID()),
  )
  const errors = fieldErrors(wait.error)
  return (
    <Fold title="None of these suits you? Wait for a time">
      <Act
        act={wait}
        button="Put me on the waiting list"
        fields={['from', 'to', 'machineIds']}
        done={
          wait.isSuccess && 'You wait. A time that comes free is kept for you for a while, by mail and under Bookings.'
        }
      >
        <div className="d-flex gap-3">
          <Field label="First day you can come" id="wait-from" error={errors.from}>
            <Form.Control id="wait-from" type="date" value={from} onChange={(e) => setFrom(e.target.value)} />
          </Field>
          <Field label="Last day" id="wait-to" error={errors.to}>
            <Form.Control id="wait-to" type="date" value={to} onChange={(e) => setTo(e.target.value)} />
          </Field>
        </div>
        <fieldset className="mb-2">
          <legend className="form-label">On any of these</legend>
          {machines.map((m) => (
            <Form.Check
              key={m.machineId}
              id={`wait-${m.machineId}`}
              label={m.name}
              checked={!left.includes(m.machineId)}
              onChange={(e) =>
                setLeft(e.target.checked ? left.filter((l) => l !== m.machineId) : [...left, m.machineId])
              }
            />
          ))}
          {errors.machineIds && <p className="text-danger small">{errors.machineIds.join(' ')}</p>}
        </fieldset>
      </Act>
      {wait.isSuccess && <Link to="/bookings">See what you wait for</Link>}
    </Fold>
  )
}
