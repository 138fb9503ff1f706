import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { answer, client } from '../kit/api'
import { Act, useAction, usePress } from '../kit/Act'
import { Failure, fieldErrors, Loading, RunOn, SelectField, TextField } from '../kit/parts'
import { hasRole, peopleQuery, useMachines, useSession } from '../kit/session'

const fobsQuery = {
  queryKey: ['live', 'fobs'],
  queryFn: ({ signal }: { signal: AbortSignal }) => answer(client.GET('/api/fobs', { signal })),
}

/** Whose fobs are in use, how one is learnt, and how a lost one is revoked. */
export function FobsPart() {
  const { me, time } = useSession()
  const fobs = useQuery({ ...fobsQuery, refetchInterval: 3000 })
  const revoke = usePress((id: string) => answer(client.DELETE('/api/fobs/{id}', { params: { path: { id } } })))
  return (
    <>
      <section>
        <RunOn title="Fobs" after={fobs.data?.items.length} />
        {fobs.isPending && <Loading what="the fobs" />}
        <Failure error={fobs.error ?? revoke.error} />
        {fobs.data && !fobs.data.on && (
          <p>
            This house has no station key: see <i>Controllers</i> in docs/operating.md. People tap in on their own
            phones.
          </p>
        )}
        <ul className="plainlist mt-2">
          {fobs.data?.items.map((f) => (
            <li key={f.id}>
              <b>{f.person}</b>, {f.looks}, learnt {time.moment(f.learntAt)}{' '}
              <button
                type="button"
                className="quietlink"
                aria-label={`Lost: revoke it, ${f.looks} of ${f.person}`}
                disabled={revoke.isPending}
                onClick={() => revoke.mutate(f.id)}
              >
                Lost: revoke it
              </button>
            </li>
          ))}
        </ul>
        <p className="small quiet">
          Revoked, a fob starts nothing more; a run that is on comes to its end. Of a fob the house keeps a seal, from
          which nobody makes another.
        </p>
      </section>
      {hasRole(me, 'steward') && fobs.data?.on && <Learn readers={fobs.data.readers} />}
    </>
  )
}

function Learn({ readers }: { readers: string[] }) {
  const { time } = useSession()
  const people = useQuery(peopleQuery)
  const machines = useMachines()
  const [personId, setPerson] = useState('')
  const [looks, setLooks] = useState('')
  const [machineId, setMachine] = useState('')
  const [code, setCode] = useState('')
  const learn = useAction(
    () => answer(client.POST('/api/fobs', { body: { personId, looks, machineId, code } })),
    () => setCode(''),
  )
  const errors = fieldErrors(learn.error)
  const made = learn.data
  return (
    <section className="sheetgroup">
      <RunOn title="Learn a fob" />
      <Act
        act={learn}
        button={machineId ? 'Wait for it at the reader' : 'Learn it'}
        fields={['name', 'code']}
        done={made && (made.until ? `Hold it at the reader now, until ${time.clock(made.until)}.` : 'Learnt.')}
      >
        <div className="inlineform mt-2">
          <SelectField
            id="fob-person"
            label="Whose"
            value={personId}
            put={setPerson}
            options={[['', 'choose'], ...(people.data ?? []).map((p) => [p.id, p.name] as const)]}
          />
          <TextField id="fob-looks" label="What it looks like" value={looks} put={setLooks} error={errors['name']} />
          <SelectField
            id="fob-reader"
            label="Read"
            value={machineId}
            put={setMachine}
            options={[
              ['', 'by a reader at this computer'],
              ...readers.map((id) => [id, `at ${machines.data?.find((m) => m.id === id)?.name ?? id}`] as const),
            ]}
          />
          {machineId === '' && (
            <TextField
              id="fob-code"
              label="Its code, as the reader types it"
              value={code}
              put={setCode}
              error={errors['code']}
              autoComplete="off"
            />
          )}
        </div>
      </Act>
    </section>
  )
}
