import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Act, Fold, useAction, usePress } from '../kit/Act'
import { answer, client, fileBody, type Schemas } from '../kit/api'
import { AddPhoto } from '../kit/AddPhoto'
import { Failure, fieldErrors, RunOn, SelectField, TextField } from '../kit/parts'
import { hasRole, peopleQuery, useSession } from '../kit/session'
import css from './incidents.module.css'

/** Photos, and what is said of injuries: apart, and for few. */
export function Papers({ incident: i }: { incident: Schemas['IncidentResponse'] }) {
  return (
    <section className="mt-4">
      <RunOn title="Photos" after={i.photos.length} />
      <ul className={css.photos}>
        {i.photos.map((p, n) => (
          <li key={p.id}>
            <a href={`/api/incidents/${i.id}/photos/${p.id}`} target="_blank" rel="noreferrer">
              <img
                src={`/api/incidents/${i.id}/photos/${p.id}`}
                width={p.width}
                height={p.height}
                loading="lazy"
                alt={`Number ${n + 1} of incident ${i.number}`}
              />
            </a>
            {!i.closedAt && <Remove id={i.id} photo={p.id} />}
          </li>
        ))}
      </ul>
      {i.may.addWords && (
        <AddPhoto
          id="incident-photo"
          send={(file) =>
            answer(client.POST('/api/incidents/{id}/photos', { params: { path: { id: i.id } }, ...fileBody(file) }))
          }
        />
      )}
      {i.may.seeInjuries && (i.hurt || i.injuries.length > 0 || !i.closedAt) && <Injuries incident={i} />}
    </section>
  )
}

function Remove({ id, photo }: { id: string; photo: string }) {
  const remove = usePress(() =>
    answer(client.POST('/api/incidents/{id}/photos/{photo}/remove', { params: { path: { id, photo } } })),
  )
  return (
    <>
      <button type="button" className="quietlink" disabled={remove.isPending} onClick={() => remove.mutate()}>
        Take it off
      </button>
      <Failure error={remove.error} />
    </>
  )
}

function Injuries({ incident: i }: { incident: Schemas['IncidentResponse'] }) {
  const { me, time } = useSession()
  const people = useQuery(peopleQuery)
  const [who, setWho] = useState('')
  const [words, setWords] = useState('')
  const add = useAction(
    () =>
      answer(
        client.POST('/api/incidents/{id}/injuries', {
          params: { path: { id: i.id } },
          body: { personId: who, words },
        }),
      ),
    () => setWords(''),
  )
  return (
    <div className="mt-4" data-injuries>
      <RunOn title="Injuries" after="stewards and keepers alone" />
      {i.injuries.map((j) => (
        <p key={j.id}>
          <b>{j.who}</b> {j.words ?? 'Erased, as the law has it.'}{' '}
          <span className={css.small}>kept until {time.date(`${j.keptUntil}T12:00:00Z`)}</span>{' '}
          <a href={`/api/incidents/${i.id}/injuries/${j.id}.pdf`}>Page of the accident book</a>
        </p>
      ))}
      {hasRole(me, 'steward') && !i.closedAt && (
        <Fold title="Add an injury">
          <Act act={add} button="Save" fields={['words']}>
            <SelectField
              id="injury-who"
              label="Who"
              value={who}
              put={setWho}
              options={[['', 'A visitor'], ...(people.data ?? []).map((p) => [p.id, p.name] as const)]}
            />
            <TextField
              id="injury-words"
              label="The injury, and what was done"
              rows={2}
              value={words}
              put={setWords}
              error={fieldErrors(add.error).words}
            />
          </Act>
        </Fold>
      )}
    </div>
  )
}
