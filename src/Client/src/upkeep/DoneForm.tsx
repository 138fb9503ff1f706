import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Act, Fold, useAction } from '../kit/Act'
import { answer, client, type Schemas } from '../kit/api'
import { Failure, fieldErrors, Loading, TextField } from '../kit/parts'
import { useSession } from '../kit/session'
import { Pictures } from './Pictures'
import { numberOf } from './numbers'
import { stockQuery } from './upkeepQueries'

/** Writes down that a task was done; one about airflow takes a reading before and after. */
export function DoneForm({ task, close }: { task: Schemas['UpkeepResponse']; close: () => void }) {
  const air = task.counter === 'airflow'
  const [before, setBefore] = useState(task.airflow == null ? '' : String(task.airflow))
  const [reading, setReading] = useState('')
  const [note, setNote] = useState('')
  const stock = useQuery(stockQuery)
  const offered = (stock.data ?? []).filter(
    (s) => s.part === task.part && (!s.machineId || s.machineId === task.machineId),
  )
  const [used, setUsed] = useState<Record<string, string>>({})
  const act = useAction(
    () =>
      answer(
        client.POST('/api/upkeep/{id}/done', {
          params: { path: { id: task.id } },
          body: {
            reading: air ? numberOf(reading) : null,
            before: air ? numberOf(before) : null,
            note: note || null,
            used: offered.flatMap((s) => (used[s.id]?.trim() ? [{ id: s.id, amount: numberOf(used[s.id]!) }] : [])),
          },
        }),
      ),
    close,
  )
  const errors = fieldErrors(act.error)
  return (
    <div>
      <Act act={act} button="It is done" fields={['reading', 'before', 'note', 'used']}>
        {air && (
          <>
            <TextField
              id={`before-${task.id}`}
              label="Airflow before, m³/h"
              error={errors.before}
              inputMode="decimal"
              value={before}
              put={setBefore}
            />
            <TextField
              id={`after-${task.id}`}
              label="Airflow after, m³/h"
              error={errors.reading}
              inputMode="decimal"
              value={reading}
              put={setReading}
            />
          </>
        )}
        {offered.map((s, i) => (
          <TextField
            key={s.id}
            id={`used-${task.id}-${s.id}`}
            label={`Used up: ${s.name}, ${s.unit} (${s.stock} there). The used one: ${s.waste}`}
            error={i === 0 ? errors.used : undefined}
            inputMode="decimal"
            value={used[s.id] ?? ''}
            put={(value) => setUsed({ ...used, [s.id]: value })}
          />
        ))}
        <TextField
          id={`note-${task.id}`}
          label="What was found (may stay empty)"
          error={errors.note}
          value={note}
          put={setNote}
        />
      </Act>
      <Fold title="The last times">
        <History id={task.id} air={air} />
      </Fold>
    </div>
  )
}

function History({ id, air }: { id: string; air: boolean }) {
  const { time } = useSession()
  const done = useQuery({
    queryKey: ['live', 'upkeep', 'done', id],
    queryFn: async ({ signal }) =>
      (await answer(client.GET('/api/upkeep/{id}/done', { params: { path: { id } }, signal }))).items,
  })
  if (done.isPending) return <Loading what="the last times" />
  if (done.isError) return <Failure error={done.error} retry={() => void done.refetch()} />
  if (done.data.length === 0) return <p className="small quiet">Nobody has written it down yet.</p>
  return (
    <ul className="plainlist small">
      {done.data.map((d) => (
        <li key={d.at}>
          {time.moment(d.at)}, {d.by}
          {air && d.reading != null && `: ${d.before ?? '?'} → ${d.reading} m³/h`}
          {!air && d.used != null && `, at ${Math.round(d.used * 10) / 10}`}
          {d.note && `. ${d.note}`}
          {(d.photos.length > 0 || d.mayAddPhoto) && (
            <Fold title={d.photos.length > 0 ? `Photos: ${d.photos.length}` : 'Add a photo'}>
              <Pictures of={d.id} name="the work" photos={d.photos} mayAdd={d.mayAddPhoto} />
            </Fold>
          )}
        </li>
      ))}
    </ul>
  )
}
