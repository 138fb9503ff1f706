import { useState } from 'react'
import { Act, Fold, useAction } from '../kit/Act'
import { answer, client, type Schemas } from '../kit/api'
import { fieldErrors, RunOn, TextField } from '../kit/parts'
import { useSession } from '../kit/session'
import css from './incidents.module.css'

/** What was seen, in order; words are added, never changed. */
export function Seen({ incident: i }: { incident: Schemas['IncidentResponse'] }) {
  const { time } = useSession()
  const [words, setWords] = useState('')
  const [at, setAt] = useState('')
  const add = useAction(
    () =>
      answer(
        client.POST('/api/incidents/{id}/words', {
          params: { path: { id: i.id } },
          body: { words, at },
        }),
      ),
    () => {
      setWords('')
      setAt('')
    },
  )
  const errors = fieldErrors(add.error)
  const there = i.involved.filter((v) => v.part !== 'told')
  return (
    <section>
      <RunOn title="What was seen, in order" after="words are added, nobody edits" />
      <ol className={css.seen}>
        {i.seen.map((s) => (
          <li key={s.id}>
            <b>{s.at ? time.clock(s.at) : 'no time'}</b>
            <span>{s.words}</span>
            <span className={css.small}>{s.by}</span>
          </li>
        ))}
      </ol>
      {there.length > 0 && (
        <p className={`${css.small} mt-2`}>
          There: {there.map((v) => (v.part === 'ran' ? `${v.name} (ran it)` : v.name)).join(', ')}
        </p>
      )}
      {i.may.addWords && (
        <Fold title="Add words">
          <Act act={add} button="Add them" fields={['words', 'at']}>
            <TextField
              id="seen-words"
              label="What you saw"
              rows={2}
              value={words}
              put={setWords}
              error={errors.words}
            />
            <TextField
              id="seen-at"
              label="When that was, if you know"
              type="datetime-local"
              value={at}
              put={setAt}
              error={errors.at}
            />
          </Act>
        </Fold>
      )}
    </section>
  )
}
