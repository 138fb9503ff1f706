import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import { Act, useAction } from '../kit/Act'
import { answer, client, type Schemas } from '../kit/api'
import { Failure, fieldErrors, RunOn, SelectField, TextField } from '../kit/parts'
import { hasRole, peopleQuery, useSession } from '../kit/session'
import css from './incidents.module.css'

type Watch = Schemas['FireWatchResponse']
const states: Record<Schemas['LookState'], string> = { done: '', due: 'now', missed: 'missed', toCome: 'to come' }
const stateCss: Record<Schemas['LookState'], string | undefined> = {
  done: css.done,
  due: css.due,
  missed: css.missed,
  toCome: css.toCome,
}
const found: Record<string, string> = { nothing: 'nothing', warm: 'WARM', burning: 'BURNING' }

/** A named person looks at each of its minutes; the machine's hold does not end before the last. */
export function FireWatch({ incident: i }: { incident: Schemas['IncidentResponse'] }) {
  const { time } = useSession()
  const w = i.watch
  const due = w.looks.find((l) => l.state === 'due')
  return (
    <section className="mt-4" data-watch>
      <RunOn
        title="Fire watch"
        after={w.who ? `${w.who}, ${w.minutes} min, to ${time.clock(w.ends!)}` : `${w.minutes} min, nobody yet`}
      />
      {w.who ? (
        <ol className={css.looks}>
          {w.looks.map((l) => (
            <li key={l.minute} className={stateCss[l.state]} data-minute={l.minute}>
              <b>{time.clock(l.at)}</b>
              <span>
                {l.minute} min{l.found ? `, ${found[l.found]}` : states[l.state] && `, ${states[l.state]}`}
              </span>
            </li>
          ))}
        </ol>
      ) : (
        !i.closedAt && <Begin id={i.id} minutes={w.minutes} />
      )}
      {due && <Look key={due.minute} id={i.id} minute={due.minute} />}
      <p className={css.small}>
        {w.howTo} Nobody locks the room before the last look. A look that nobody answers calls the steward on duty.
      </p>
    </section>
  )
}

function Begin({ id, minutes }: { id: string; minutes: Watch['minutes'] }) {
  const { me } = useSession()
  const staff = hasRole(me, 'steward', 'trainer', 'keeper')
  const people = useQuery({ ...peopleQuery, enabled: staff })
  const [who, setWho] = useState('')
  const begin = useAction(() =>
    answer(client.POST('/api/incidents/{id}/watch', { params: { path: { id } }, body: { personId: who } })),
  )
  return (
    <>
      {staff && people.data && (
        <SelectField
          id="watch-who"
          label="Who watches"
          value={who}
          put={setWho}
          options={[
            ['', 'I do'],
            ...people.data.filter((p) => p.id !== me.memberId).map((p) => [p.id, p.name] as const),
          ]}
        />
      )}
      <Button disabled={begin.isPending} onClick={() => begin.mutate()}>
        Begin the fire watch now: {minutes} min
      </Button>
      <Failure error={begin.error} />
    </>
  )
}

function Look({ id, minute }: { id: string; minute: number }) {
  const [note, setNote] = useState('')
  const [what, setWhat] = useState('nothing')
  const look = useAction(() =>
    answer(client.POST('/api/incidents/{id}/looks', { params: { path: { id } }, body: { minute, found: what, note } })),
  )
  return (
    <Act act={look} button={`Look at ${minute} min made`} fields={['found', 'note']} danger={what !== 'nothing'}>
      <SelectField
        id="look-found"
        label="Filter casing, duct, outlet and bin: found"
        value={what}
        put={setWhat}
        options={[
          ['nothing', 'Nothing: cold, no smoke'],
          ['warm', 'Something warm'],
          ['burning', 'Smoke, glow or flame'],
        ]}
      />
      {what !== 'nothing' && <p className={css.warn}>Do not open it. Leave, alarm, call. Then say it here.</p>}
      <TextField id="look-note" label="Words, if any" value={note} put={setNote} error={fieldErrors(look.error).note} />
    </Act>
  )
}
