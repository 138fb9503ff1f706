import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Act, useAction } from '../kit/Act'
import { answer, client, type Schemas } from '../kit/api'
import { Failure, fieldErrors, TextField } from '../kit/parts'
import { hasRole, useSession } from '../kit/session'
import { locksQuery } from './upkeepQueries'

/** Locks on a machine out of service, who has their keys, and the tag to hang beside them. */
export function Locks({ machine }: { machine: Schemas['MachineResponse'] }) {
  const { me } = useSession()
  const locks = useQuery(locksQuery)
  const [open, setOpen] = useState(false)
  const hung = (locks.data ?? []).filter((l) => l.machineId === machine.id)
  const may = hasRole(me, 'steward', 'trainer') || me.roles.includes(`repair:${machine.id}`)
  return (
    <div className="mt-2">
      {hung.map((l) => (
        <Hung key={l.id} hung={l} steward={hasRole(me, 'steward')} />
      ))}
      <p className="small mb-1">
        <a href={`/api/machines/${machine.id}/tag.pdf`}>“Do not use” tag (PDF)</a>{' '}
        {may && !open && (
          <button type="button" className="quietlink" onClick={() => setOpen(true)}>
            A lock hangs on it<span className="visually-hidden">: {machine.name}</span>
          </button>
        )}
      </p>
      {open && <Hang machine={machine} close={() => setOpen(false)} />}
    </div>
  )
}

function Hang({ machine, close }: { machine: Schemas['MachineResponse']; close: () => void }) {
  const [where, setWhere] = useState('')
  const act = useAction(
    () => answer(client.POST('/api/machines/{id}/locks', { params: { path: { id: machine.id } }, body: { where } })),
    close,
  )
  const errors = fieldErrors(act.error)
  return (
    <Act act={act} button="It hangs, and I have its key" fields={['where']}>
      <TextField
        id={`lock-${machine.id}`}
        label="Which lock hangs where"
        error={errors.where}
        value={where}
        put={setWhere}
      />
      <p className="small quiet">This page locks nothing. The machine comes back once every lock is off.</p>
    </Act>
  )
}

function Hung({ hung, steward }: { hung: Schemas['LockResponse']; steward: boolean }) {
  const { time } = useSession()
  const [open, setOpen] = useState(false)
  const [why, setWhy] = useState('')
  const act = useAction(() =>
    answer(client.POST('/api/locks/{id}/off', { params: { path: { id: hung.id } }, body: { why: why || null } })),
  )
  const errors = fieldErrors(act.error)
  return (
    <div>
      <p className="mb-1">
        <b>Locked: {hung.where}.</b> Key with {hung.mine ? 'you' : hung.holder}, since {time.moment(hung.hungAt)}.{' '}
        {hung.mine ? (
          <button type="button" className="quietlink" disabled={act.isPending} onClick={() => act.mutate()}>
            It is off
          </button>
        ) : (
          steward &&
          !open && (
            <button type="button" className="quietlink" onClick={() => setOpen(true)}>
              It came off without them
            </button>
          )
        )}
      </p>
      {!open && <Failure error={act.error} />}
      {open && (
        <Act act={act} button="It is off" danger fields={['why']}>
          <TextField
            id={`lock-why-${hung.id}`}
            label="Why, and whether they were reached"
            error={errors.why}
            value={why}
            put={setWhy}
          />
        </Act>
      )}
    </div>
  )
}
