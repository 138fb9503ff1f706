import { capital } from '../kit/names'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Act, Fold, useAction } from '../kit/Act'
import { answer, client, type Schemas } from '../kit/api'
import { Failure, fieldErrors, RunOn, TextField } from '../kit/parts'
import { nearMissesQuery } from './incidentQueries'
import css from './incidents.module.css'

/** What nearly happened, told without a name: by its half day or week, and nothing else. */
export function NearMisses({ mayStrike }: { mayStrike: boolean }) {
  const told = useQuery(nearMissesQuery)
  if (!told.data) return <Failure error={told.error} />
  return (
    <section>
      <RunOn title="Near misses" after={told.data.items.length + told.data.hidden} />
      {told.data.hidden > 0 && (
        <p className="quiet">{told.data.hidden} more: what they say shows once their half day or week is over.</p>
      )}
      {told.data.items.length + told.data.hidden === 0 && (
        <p className="quiet">
          None so far. The code at each machine leads to three taps, without a name. More of them told is good news.
        </p>
      )}
      <ul className={css.near}>
        {told.data.items.slice(0, 20).map((one) => (
          <NearMiss key={one.id} one={one} mayStrike={mayStrike} />
        ))}
      </ul>
      {told.data.items.length > 20 && <p className="quiet">And {told.data.items.length - 20} earlier.</p>}
    </section>
  )
}

function NearMiss({ one, mayStrike }: { one: Schemas['NearMissResponse']; mayStrike: boolean }) {
  const [note, setNote] = useState(one.note)
  const strike = useAction(() =>
    answer(client.POST('/api/near-misses/{id}/strike', { params: { path: { id: one.id } }, body: { note } })),
  )
  return (
    <li data-nearmiss={one.id}>
      <b>
        {capital(one.whatWords)}, {one.place}
      </b>
      <span className={css.small}>{one.when}</span>
      {one.note && <p>{one.note}</p>}
      {one.struck && <span className={css.small}>A name was struck from it.</span>}
      {mayStrike && one.note && (
        <Fold title="A name stands in it">
          <Act act={strike} button="Keep it like this" fields={['note']}>
            <TextField
              id={`strike-${one.id}`}
              label="The same words without the name"
              value={note}
              put={setNote}
              error={fieldErrors(strike.error).note}
              rows={2}
            />
          </Act>
        </Fold>
      )}
    </li>
  )
}
