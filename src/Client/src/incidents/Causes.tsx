import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import Form from 'react-bootstrap/Form'
import { Act, useAction } from '../kit/Act'
import { answer, client, type Schemas } from '../kit/api'
import { fieldErrors, RunOn, SelectField, TextField } from '../kit/parts'
import { choicesQuery } from './incidentQueries'
import css from './incidents.module.css'

/** Proposed from evidence; whoever investigates ticks what is true. */
export function Causes({ incident: i }: { incident: Schemas['IncidentResponse'] }) {
  const all = useQuery(choicesQuery).data?.causes ?? []
  const proposed = i.causes.filter((c) => c.evidence).length
  const [ticked, setTicked] = useState(() => i.causes.filter((c) => c.ticked).map((c) => c.code))
  const [more, setMore] = useState<string[]>([])
  const [note, setNote] = useState(i.causesNote ?? '')
  const save = useAction(() =>
    answer(
      client.POST('/api/incidents/{id}/causes', { params: { path: { id: i.id } }, body: { codes: ticked, note } }),
    ),
  )
  const errors = fieldErrors(save.error)
  const rows = [
    ...i.causes,
    ...more
      .filter((code) => !i.causes.some((c) => c.code === code))
      .map((code) => ({ code, title: all.find((c) => c.code === code)?.title ?? code, evidence: null, told: true })),
  ]
  const toggle = (code: string, on: boolean) => setTicked(on ? [...ticked, code] : ticked.filter((c) => c !== code))
  const head = (
    <RunOn title="Causes" after={proposed === 1 ? '1 proposed from evidence' : `${proposed} proposed from evidence`} />
  )
  if (!i.may.investigate)
    return (
      <section className="mt-4">
        {head}
        <div className={css.causes}>
          {i.causes.map((c) => (
            <div key={c.code} data-cause={c.code}>
              <b>{c.title}</b> {c.ticked ? '' : <span className={css.small}>proposed, not ticked</span>}
              {c.evidence && <p>{c.evidence}</p>}
            </div>
          ))}
        </div>
        {i.causesNote && <p className="mt-2">{i.causesNote}</p>}
      </section>
    )
  return (
    <section className="mt-4">
      {head}
      <Act act={save} button="Save the causes" fields={['codes', 'note']} done={save.isSuccess && 'Saved.'}>
        <fieldset className={css.causes}>
          <legend className="visually-hidden">Tick what you find true</legend>
          {rows.map((c) => (
            <div key={c.code} data-cause={c.code}>
              <Form.Check
                id={`cause-${c.code}`}
                checked={ticked.includes(c.code)}
                onChange={(event) => toggle(c.code, event.target.checked)}
                label={<b>{c.title}</b>}
              />
              {c.evidence && (
                <p>
                  {c.evidence} {c.told && <span className={css.small}>(told)</span>}
                </p>
              )}
            </div>
          ))}
          {errors.codes && (
            <div className="invalid-feedback" role="alert">
              {errors.codes.join(' ')}
            </div>
          )}
          <SelectField
            id="cause-more"
            label="Another cause"
            value=""
            put={(code) => {
              if (!code) return
              setMore([...more, code])
              setTicked([...new Set([...ticked, code])])
            }}
            options={[
              ['', 'Add one'],
              ...all.filter((c) => !rows.some((r) => r.code === c.code)).map((c) => [c.code, c.title] as const),
            ]}
          />
          <TextField
            id="cause-note"
            label="In words: what was looked at"
            rows={2}
            value={note}
            put={setNote}
            error={errors.note}
          />
        </fieldset>
      </Act>
    </section>
  )
}
