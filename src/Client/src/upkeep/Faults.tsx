import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link } from 'react-router'
import { Act, Fold, useAction } from '../kit/Act'
import { answer, client, type Schemas } from '../kit/api'
import { Failure, fieldErrors, Loading, RunOn, SelectField, TextField } from '../kit/parts'
import { useMachines, useSession } from '../kit/session'
import { Standing } from '../kit/Standing'
import { Pictures } from './Pictures'
import { standingOfFault } from './standings'
import { faultsQuery } from './upkeepQueries'
import css from './upkeep.module.css'

type Fault = Schemas['FaultResponse']

/** Faults that are open, what a member may still do, and what becomes of them. */
export function Faults() {
  const faults = useQuery(faultsQuery)
  return (
    <section>
      <RunOn title="Faults" after={faults.data?.length ? `${faults.data.length} open, the worst first` : undefined} />
      {faults.isPending && <Loading what="the faults" />}
      <Failure error={faults.error} retry={() => void faults.refetch()} />
      {faults.data?.length === 0 && <p className="quiet">No fault is open.</p>}
      <ul className={css.faults}>
        {faults.data?.map((f) => (
          <Line key={f.id} fault={f} />
        ))}
      </ul>
    </section>
  )
}

function Line({ fault: f }: { fault: Fault }) {
  const { time } = useSession()
  const machines = useMachines()
  const name = machines.data?.find((m) => m.id === f.machineId)?.name ?? f.machineId
  return (
    <li data-fault={f.number}>
      <div>
        <b>{f.seen}</b>, {name}
        <div className="small quiet">
          Fault {f.number}, {time.moment(f.at)}
          {f.by && `, ${f.by}`}
          {f.times > 1 && `, told ${f.times} times`}
          {f.note && <>: “{f.note}”</>}
        </div>
        {(f.photos.length > 0 || f.mayAddPhoto) && (
          <Fold title={f.photos.length > 0 ? `Photos: ${f.photos.length}` : 'Add a photo'}>
            <Pictures of={f.id} name={`fault ${f.number}`} photos={f.photos} mayAdd={f.mayAddPhoto} />
          </Fold>
        )}
        {f.mayDo.length > 0 && <div className="small">A member may still do: {f.mayDo.join(' ')}</div>}
      </div>
      <Standing {...standingOfFault(f.standing)} />
      {f.standing === 'stops' ? (
        <Link to="/machines">See the machine</Link>
      ) : (
        f.mayJudge && (
          <Fold title="Look at it">
            <Look fault={f} />
          </Fold>
        )
      )}
    </li>
  )
}

const outcomes = [
  ['close', 'It is put right, or was nothing: close it'],
  ['none', 'It keeps nobody from running, and stays open'],
  ['caution', 'Run with care'],
  ['asks', 'A steward decides each time'],
  ['stops', 'Nothing runs: stop the machine'],
] as const

function Look({ fault }: { fault: Fault }) {
  const [outcome, setOutcome] = useState<(typeof outcomes)[number][0]>('close')
  const [note, setNote] = useState('')
  const act = useAction(() =>
    outcome === 'close'
      ? answer(client.POST('/api/faults/{id}/close', { params: { path: { id: fault.id } }, body: { note } }))
      : answer(
          client.POST('/api/faults/{id}/standing', {
            params: { path: { id: fault.id } },
            body: { standing: outcome, note },
          }),
        ),
  )
  const errors = fieldErrors(act.error)
  return (
    <Act act={act} button="Save" fields={['note', 'standing']}>
      <SelectField
        id={`outcome-${fault.id}`}
        label="What it comes to"
        error={errors.standing}
        value={outcome}
        put={setOutcome}
        options={outcomes}
      />
      <TextField
        id={`found-${fault.id}`}
        label="What was found and done"
        error={errors.note}
        value={note}
        put={setNote}
      />
    </Act>
  )
}
