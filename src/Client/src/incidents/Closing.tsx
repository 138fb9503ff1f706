import { useState } from 'react'
import { Act, Fold, useAction } from '../kit/Act'
import { answer, client, type Schemas } from '../kit/api'
import { fieldErrors, RunOn, TextField } from '../kit/parts'
import { Standing } from '../kit/Standing'
import { useSession } from '../kit/session'
import css from './incidents.module.css'

/** What still has to be done before somebody who was not involved closes it. */
export function Closing({ incident: i }: { incident: Schemas['IncidentResponse'] }) {
  const { time } = useSession()
  const open = i.closing.filter((s) => !s.done).length
  return (
    <section className="mt-4" data-closing>
      <RunOn
        title={i.closedAt ? 'Closed' : 'What closes it'}
        after={i.closedAt ? time.moment(i.closedAt) : undefined}
      />
      {i.closedAt ? (
        <>
          <p>{i.closeNote}</p>
          {i.may.reopen && <Reopen id={i.id} />}
        </>
      ) : (
        <>
          <ul className={css.closing}>
            {i.closing.map((s) => (
              <li key={s.name}>
                <b>{s.name}</b>
                <Standing standing={s.done ? 'clear' : 'shut'} word={s.done ? 'Done' : 'Open'} />
                <span>{s.says}</span>
              </li>
            ))}
          </ul>
          {i.may.close ? (
            <Close id={i.id} number={i.number} />
          ) : (
            <button type="button" className="btn btn-primary btn-sm" disabled>
              Close incident {i.number}
              {open > 0 && `: ${open === 1 ? 'one thing' : `${open} things`} to go`}
            </button>
          )}
        </>
      )}
    </section>
  )
}

function Close({ id, number }: { id: string; number: number }) {
  const [note, setNote] = useState('')
  const close = useAction(() =>
    answer(client.POST('/api/incidents/{id}/close', { params: { path: { id } }, body: { note } })),
  )
  return (
    <Act act={close} button={`Close incident ${number}`} fields={['reason']}>
      <TextField
        id="close-note"
        label="What was learnt"
        rows={2}
        value={note}
        put={setNote}
        error={fieldErrors(close.error).reason}
      />
    </Act>
  )
}

function Reopen({ id }: { id: string }) {
  const [reason, setReason] = useState('')
  const reopen = useAction(() =>
    answer(client.POST('/api/incidents/{id}/reopen', { params: { path: { id } }, body: { reason } })),
  )
  return (
    <Fold title="Reopen it">
      <Act act={reopen} button="Reopen" fields={['reason']}>
        <TextField
          id="reopen-reason"
          label="Why"
          value={reason}
          put={setReason}
          error={fieldErrors(reopen.error).reason}
        />
      </Act>
    </Fold>
  )
}
