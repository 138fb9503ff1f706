import { useAction } from '../kit/Act'
import { useMutation, useQuery } from '@tanstack/react-query'
import { useState, type SubmitEvent } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { answer, client, type Schemas } from '../kit/api'
import { Failure, Field, fieldErrors, RunOn, SelectField, TextField } from '../kit/parts'
import { peopleQuery, useMachines, useSession } from '../kit/session'

const days = [
  ['MO', 'Mon'],
  ['TU', 'Tue'],
  ['WE', 'Wed'],
  ['TH', 'Thu'],
  ['FR', 'Fri'],
  ['SA', 'Sat'],
  ['SU', 'Sun'],
] as const

interface Draft {
  kind: string
  title: string
  firstDay: string
  lastDay: string
  starts: string
  ends: string
  every: string
  on: string[]
  personId: string
  machineIds: string[]
  roster: string[]
  atOnce: string
}

const blank: Draft = {
  kind: 'closure',
  title: '',
  firstDay: '',
  lastDay: '',
  starts: '10:00',
  ends: '12:00',
  every: '1',
  on: [],
  personId: '',
  machineIds: [],
  roster: [],
  atOnce: '1',
}

/** RFC 5545: the days chosen, again every so many weeks to the last day. */
const ruleOf = (d: Draft) =>
  d.on.length === 0
    ? ''
    : `FREQ=WEEKLY;INTERVAL=${Number(d.every) || 1};BYDAY=${d.on.join(',')}${d.lastDay ? `;UNTIL=${d.lastDay.replaceAll('-', '')}` : ''}`

const bodyOf = (d: Draft): Schemas['PlanRequest'] => ({
  kind: d.kind,
  title: d.title,
  firstDay: d.firstDay,
  starts: d.starts,
  ends: d.ends,
  rule: ruleOf(d),
  personId: d.personId,
  machineIds: d.machineIds,
  roster: d.roster,
  atOnce: d.kind === 'class' ? Number(d.atOnce) || 0 : undefined,
})

/** A closure, a class or a rota line, once or again: what it hits is shown before it is written. */
export function PlanForm() {
  const [draft, setDraft] = useState<Draft>(blank)
  const put = (changed: Partial<Draft>) => setDraft({ ...draft, ...changed })
  const { time } = useSession()
  const machines = useMachines()
  const people = useQuery(peopleQuery)
  const preview = useMutation({
    mutationFn: (d: Draft) => answer(client.POST('/api/calendar/preview', { body: bodyOf(d) })),
  })
  const add = useAction(
    (d: Draft) => answer(client.POST('/api/calendar', { body: bodyOf(d) })),
    () => {
      setDraft({ ...blank, kind: draft.kind })
      preview.reset()
    },
  )
  const errors = { ...fieldErrors(preview.error), ...fieldErrors(add.error) }
  const failed = add.error ?? preview.error
  const stewards = people.data?.filter((p) => p.roles?.includes('steward')) ?? []
  const choices = draft.kind === 'duty' ? stewards : (people.data ?? [])
  const toggle = (list: string[], id: string) => (list.includes(id) ? list.filter((x) => x !== id) : [...list, id])
  return (
    <section className="sheetgroup">
      <RunOn title="Add to the calendar" />
      <Form
        noValidate
        aria-label="A line of the calendar"
        className="mt-2"
        onSubmit={(event: SubmitEvent) => {
          event.preventDefault()
          add.mutate(draft)
        }}
      >
        <div className="inlineform">
          <SelectField
            id="plan-kind"
            label="What"
            value={draft.kind}
            put={(kind) => put({ kind, personId: '' })}
            options={[
              ['closure', 'closed'],
              ['class', 'a class'],
              ['duty', 'steward on duty'],
            ]}
            error={errors.kind}
          />
          {draft.kind !== 'duty' && (
            <TextField
              id="plan-title"
              label="In a few words"
              error={errors.title}
              value={draft.title}
              put={(value) => put({ title: value })}
            />
          )}
          {draft.kind !== 'closure' && (
            <SelectField
              id="plan-person"
              label={draft.kind === 'duty' ? 'Steward' : 'Supervising adult'}
              value={draft.personId}
              put={(personId) => put({ personId })}
              options={[['', 'choose'], ...choices.map((p) => [p.id, p.name] as const)]}
              error={errors.personId}
            />
          )}
          {draft.kind === 'class' && (
            <TextField
              id="plan-once"
              label="May run at once"
              error={errors.atOnce}
              inputMode="numeric"
              value={draft.atOnce}
              put={(value) => put({ atOnce: value })}
            />
          )}
          {(
            [
              ['firstDay', 'First day', 'date'],
              ['starts', 'From, such as 09:30', 'text'],
              ['ends', 'To', 'text'],
            ] as const
          ).map(([key, label, type]) => (
            <TextField
              key={key}
              id={`plan-${key}`}
              label={label}
              error={errors[key]}
              type={type}
              value={draft[key]}
              put={(value) => put({ [key]: value })}
            />
          ))}
        </div>
        <fieldset className="mb-2">
          <legend className="form-label">Again on (none: once)</legend>
          {days.map(([id, name]) => (
            <Form.Check
              inline
              key={id}
              id={`plan-${id}`}
              label={name}
              checked={draft.on.includes(id)}
              onChange={() => put({ on: toggle(draft.on, id) })}
            />
          ))}
        </fieldset>
        {draft.on.length > 0 && (
          <div className="inlineform">
            <TextField
              id="plan-every"
              label="Every how many weeks"
              inputMode="numeric"
              value={draft.every}
              put={(value) => put({ every: value })}
            />
            <TextField
              id="plan-last"
              label="Last day"
              error={errors.rule}
              type="date"
              value={draft.lastDay}
              put={(value) => put({ lastDay: value })}
            />
          </div>
        )}
        {draft.kind !== 'duty' && (
          <fieldset className="mb-2">
            <legend className="form-label">
              {draft.kind === 'closure' ? 'Machines (none: the whole house)' : 'Machines'}
            </legend>
            {machines.data?.map((m) => (
              <Form.Check
                inline
                key={m.id}
                id={`plan-m-${m.id}`}
                label={m.name}
                checked={draft.machineIds.includes(m.id)}
                onChange={() => put({ machineIds: toggle(draft.machineIds, m.id) })}
              />
            ))}
            {errors.machineIds && <p className="invalid-feedback">{errors.machineIds.join(' ')}</p>}
          </fieldset>
        )}
        {draft.kind === 'class' && (
          <Field id="plan-roster" label="Roster (several with Ctrl)" error={errors.roster}>
            <Form.Select
              id="plan-roster"
              multiple
              htmlSize={6}
              value={draft.roster}
              onChange={(e) => put({ roster: [...e.target.selectedOptions].map((o) => o.value) })}
            >
              {people.data?.map((p) => (
                <option key={p.id} value={p.id}>
                  {p.name}
                </option>
              ))}
            </Form.Select>
          </Field>
        )}
        {failed && Object.keys(errors).length === 0 && <Failure error={failed} />}
        <div className="sheetfoot">
          <Button variant="outline-primary" onClick={() => preview.mutate(draft)} disabled={preview.isPending}>
            See what it affects
          </Button>
          <Button type="submit" disabled={add.isPending}>
            Save
          </Button>
        </div>
      </Form>
      {(add.data ?? preview.data) && (
        <Hit answered={(add.data ?? preview.data)!} written={!!add.data} moment={time.moment} />
      )}
    </section>
  )
}

/** The bookings a line falls upon. */
function Hit({
  answered,
  written,
  moment,
}: {
  answered: Schemas['PlanMade']
  written: boolean
  moment: (at: string) => string
}) {
  return (
    <div role="status">
      <p>
        <b>{written ? 'Saved.' : 'Not saved yet.'}</b> {answered.times} {answered.times === 1 ? 'time' : 'times'},{' '}
        {answered.hit.length === 0
          ? 'and no booking falls into them.'
          : `and ${answered.hit.length} bookings fall into them:`}
      </p>
      <ul>
        {answered.hit.map((b) => (
          <li key={b.id}>
            Number {b.number}, {b.name}, {b.machineId}, {moment(b.start)}
          </li>
        ))}
      </ul>
      {answered.hit.length > 0 && (
        <p className="small quiet">Each is checked again within a minute, and its person is told.</p>
      )}
    </div>
  )
}
