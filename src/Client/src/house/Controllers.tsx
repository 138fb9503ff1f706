import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { answer, client, type Schemas } from '../kit/api'
import { Failure } from '../kit/parts'
import { useSession } from '../kit/session'

const key = ['live', 'controllers']

/** For a keeper: the controller that a machine is bound to, its enrolment and its end. */
export function Controllers({ machine }: { machine: Schemas['MachineResponse'] }) {
  const { time } = useSession()
  const queries = useQueryClient()
  const all = useQuery({ queryKey: key, queryFn: ({ signal }) => answer(client.GET('/api/controllers', { signal })) })
  const fresh = () => queries.invalidateQueries({ queryKey: key })
  const revoke = useMutation({
    mutationFn: (serial: string) =>
      answer(client.DELETE('/api/controllers/{serial}', { params: { path: { serial } } })),
    onSuccess: fresh,
  })
  // Shown this once: it stays until the keeper has it, whatever else is fetched meanwhile.
  const [enrolled, setEnrolled] = useState<Schemas['EnrolledResponse']>()
  const bound = all.data?.controllers.find((c) => c.machineId === machine.id)
  return (
    <details>
      <summary>Controller</summary>
      <Failure error={all.error ?? revoke.error} />
      {all.data && !all.data.on && (
        <p>
          This house has no broker or no station key: see <i>Controllers</i> in docs/operating.md. Sessions run without
          one.
        </p>
      )}
      {enrolled ? (
        <>
          <p>
            The key of <b>{enrolled.serial}</b>, shown this once. Write it into the controller:
          </p>
          <p>
            <code>{enrolled.key}</code>
          </p>
          <button type="button" className="btn btn-outline-primary" onClick={() => setEnrolled(undefined)}>
            I have it
          </button>
        </>
      ) : bound ? (
        <>
          <p>
            <b>{bound.serial}</b>, enrolled {time.moment(bound.enrolledAt)},{' '}
            {bound.heard ? `heard ${time.moment(bound.heard)}` : 'never heard'}
            {bound.silent && ', silent now'}. Booted {bound.boot} {bound.boot === 1 ? 'time' : 'times'},{' '}
            {bound.lostReadings} readings lost since.
            {bound.clockApartSeconds ? ` Its clock is ${bound.clockApartSeconds} s apart, which decides nothing.` : ''}
          </p>
          <button
            type="button"
            className="btn btn-outline-primary"
            disabled={revoke.isPending}
            onClick={() => revoke.mutate(bound.serial)}
          >
            Revoke {bound.serial}
          </button>
          <p className="small quiet">A beam that is on goes off. Sessions here then run without a controller.</p>
        </>
      ) : (
        all.data?.on && <Enrol machine={machine} done={setEnrolled} />
      )}
    </details>
  )
}

function Enrol({
  machine,
  done,
}: {
  machine: Schemas['MachineResponse']
  done: (enrolled: Schemas['EnrolledResponse']) => void
}) {
  const [serial, setSerial] = useState('')
  const enrol = useMutation({
    mutationFn: () => answer(client.POST('/api/controllers', { body: { machineId: machine.id, serial } })),
    onSuccess: done,
  })
  const id = `serial-${machine.id}`
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault()
        enrol.mutate()
      }}
    >
      <label htmlFor={id}>Serial, as it stands on the box</label>
      <input id={id} className="form-control" value={serial} onChange={(event) => setSerial(event.target.value)} />
      <p className="small quiet">
        It can only take the beam away, in series with the maker’s enable input, and never in place of an interlock.
      </p>
      <Failure error={enrol.error} />
      <button type="submit" className="btn btn-primary" disabled={enrol.isPending || serial.trim() === ''}>
        Enrol
      </button>
    </form>
  )
}
