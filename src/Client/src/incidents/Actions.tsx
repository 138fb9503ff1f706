import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link } from 'react-router'
import { Act, Fold, useAction } from '../kit/Act'
import { answer, client, type Schemas } from '../kit/api'
import { fieldErrors, RunOn, SelectField, TextField } from '../kit/parts'
import { hasRole, peopleQuery, useSession } from '../kit/session'
import { useDraft } from '../kit/useDraft'
import css from './incidents.module.css'

/** What is done so that it does not happen again: by whom, until when, and what would show that it helped. */
export function Actions({ incident: i }: { incident: Schemas['IncidentResponse'] }) {
  const { me } = useSession()
  const steward = hasRole(me, 'steward')
  const late = i.actions.filter((a) => a.late).length
  return (
    <section className="mt-4">
      <RunOn title="Actions" after={`${i.actions.length}, ${late === 0 ? 'none' : late} overdue`} />
      <ul className={css.actions}>
        {i.actions.map((a) => (
          <ActionLine key={a.id} action={a} id={i.id} mayEnd={!i.closedAt && (a.mine || steward)} />
        ))}
      </ul>
      {steward && !i.closedAt && <NewAction id={i.id} />}
    </section>
  )
}

function ActionLine({ action: a, id, mayEnd }: { action: Schemas['ActionResponse']; id: string; mayEnd: boolean }) {
  const { time } = useSession()
  const [words, setWords] = useState('')
  const [done, setDone] = useState<'yes' | 'no'>('yes')
  const end = useAction(() =>
    answer(
      client.POST('/api/incidents/{id}/actions/{action}/end', {
        params: { path: { id, action: a.id } },
        body: { words, done: done === 'yes' },
      }),
    ),
  )
  return (
    <li data-action={a.id}>
      <div className={css.holdhead}>
        <b>{a.text}</b>
        <span>
          {a.owner}, {a.ended ? (a.done ? 'done' : 'given up') : `until ${time.day(`${a.due}T12:00:00Z`)}`}
          {a.late && <b> overdue</b>}
        </span>
      </div>
      <p className={css.small}>
        helped when: {a.showsBy} {a.link && <Link to={a.link}>{a.link}</Link>} {a.endWords}
      </p>
      {!a.ended && mayEnd && (
        <Fold title="Done, or given up">
          <Act act={end} button="Save" fields={['reason']}>
            <SelectField
              id={`done-${a.id}`}
              label="It is"
              value={done}
              put={setDone}
              options={[
                ['yes', 'done'],
                ['no', 'given up, with a reason'],
              ]}
            />
            <TextField
              id={`words-${a.id}`}
              label="What was done, or why not"
              value={words}
              put={setWords}
              error={fieldErrors(end.error).reason}
            />
          </Act>
        </Fold>
      )}
    </li>
  )
}

function NewAction({ id }: { id: string }) {
  const people = useQuery(peopleQuery)
  const empty = { text: '', ownerId: '', due: '', showsBy: '', link: '' }
  const form = useDraft(empty)
  const add = useAction(
    () => answer(client.POST('/api/incidents/{id}/actions', { params: { path: { id } }, body: form.draft })),
    form.clear,
  )
  const errors = fieldErrors(add.error)
  return (
    <Fold title="Add an action">
      <Act act={add} button="Add it" fields={Object.keys(empty)}>
        <TextField id="action-text" label="What is done" {...form.of('text', errors)} />
        <SelectField
          id="action-owner"
          label="By whom"
          {...form.of('ownerId', errors)}
          options={[['', 'Choose'], ...(people.data ?? []).map((p) => [p.id, p.name] as const)]}
        />
        <TextField id="action-due" label="Until" type="date" {...form.of('due', errors)} />
        <TextField id="action-shows" label="What would show that it helped" {...form.of('showsBy', errors)} />
        <TextField
          id="action-link"
          label="Where, if it is a page of the course, a material or a rule"
          placeholder="/materials/birch-ply"
          {...form.of('link', errors)}
        />
      </Act>
    </Fold>
  )
}
