import { useState } from 'react'
import Form from 'react-bootstrap/Form'
import { Act, Fold, useAction } from '../kit/Act'
import { answer, client, type Schemas } from '../kit/api'
import { fieldErrors, RunOn, SelectField, TextField } from '../kit/parts'
import { hasRole, useSession } from '../kit/session'
import { typedNumber } from '../kit/typed'
import { useDraft } from '../kit/useDraft'
import { FactFields, factsOf, noFacts } from './FactFields'
import css from './incidents.module.css'

/** Damage, the law, what the maker says, and the teaching case. */
export function Details({ incident: i }: { incident: Schemas['IncidentResponse'] }) {
  const { me } = useSession()
  const law =
    i.law.wanted == null
      ? 'nobody has looked yet'
      : i.law.wanted
        ? `yes${i.law.to ? `, to ${i.law.to}` : ''}${i.law.by ? `, by ${i.law.by}` : ''}${i.law.number ? `, number ${i.law.number}` : ''}`
        : 'no'
  return (
    <section className="mt-4">
      <RunOn title="More about it" />
      <dl className={css.details}>
        <dt>Put out by</dt>
        <dd>{i.putOut ?? 'not said'}</dd>
        <dt>Burnt, marked, scrapped</dt>
        <dd>{i.marked == null ? 'not said' : i.marked ? 'yes' : 'no'}</dd>
        <dt>Damage and cost</dt>
        <dd>
          {i.damage ?? 'none said'}
          {i.cost != null && ` Cost: ${i.cost}.`}
        </dd>
        <dt>Fire service</dt>
        <dd>{i.fireService ? 'called to be safe' : 'not called'}</dd>
        <dt>Reportable by law</dt>
        <dd>{law}</dd>
        <dt>At the gate then</dt>
        <dd>{i.atTheGate.length > 0 ? i.atTheGate.join('; ') : 'nothing that is known stood against it'}</dd>
        <dt>What the maker says</dt>
        <dd>{i.makerSays ?? 'nothing asked yet'}; kept apart from the causes</dd>
      </dl>
      {i.may.investigate && <Change incident={i} />}
      {hasRole(me, 'steward') && <Teach incident={i} />}
    </section>
  )
}

function Change({ incident: i }: { incident: Schemas['IncidentResponse'] }) {
  const form = useDraft({
    damage: i.damage ?? '',
    cost: i.cost == null ? '' : String(i.cost),
    putOut: i.putOut ?? '',
    makerSays: i.makerSays ?? '',
    tag: i.tag ?? '',
    wanted: i.law.wanted == null ? '' : i.law.wanted ? 'yes' : 'no',
    to: i.law.to,
    by: i.law.by ?? '',
    number: i.law.number,
  })
  const [marked, setMarked] = useState(i.marked ?? false)
  const [fireService, setFireService] = useState(i.fireService)
  const [facts, setFacts] = useState(noFacts)
  const d = form.draft
  const save = useAction(() =>
    answer(
      client.POST('/api/incidents/{id}/change', {
        params: { path: { id: i.id } },
        body: {
          version: i.version,
          damage: d.damage,
          cost: typedNumber(d.cost),
          putOut: d.putOut,
          makerSays: d.makerSays,
          tag: d.tag,
          marked,
          fireService,
          facts: factsOf(facts),
          law: { wanted: d.wanted === '' ? null : d.wanted === 'yes', to: d.to, by: d.by, number: d.number },
        },
      }),
    ),
  )
  const errors = fieldErrors(save.error)
  return (
    <Fold title="Change these">
      <Act
        act={save}
        button="Save"
        fields={['damage', 'cost', 'putOut', 'makerSays', 'tag']}
        done={save.isSuccess && 'Saved.'}
      >
        <TextField id="change-damage" label="Damage" {...form.of('damage', errors)} />
        <TextField id="change-cost" label="Cost" inputMode="decimal" {...form.of('cost', errors)} />
        <TextField id="change-putOut" label="What put it out" {...form.of('putOut', errors)} />
        <TextField id="change-tag" label="Tag of the sheet" {...form.of('tag', errors)} />
        <Form.Check
          id="change-marked"
          label="Anything burnt, marked or scrapped"
          checked={marked}
          onChange={(event) => setMarked(event.target.checked)}
        />
        <Form.Check
          id="change-fireService"
          className="mb-2"
          label="The fire service was called to be safe"
          checked={fireService}
          onChange={(event) => setFireService(event.target.checked)}
        />
        <SelectField
          id="change-wanted"
          label="Reportable by law"
          {...form.of('wanted', {})}
          options={[
            ['', 'Nobody has looked yet'],
            ['yes', 'Yes'],
            ['no', 'No'],
          ]}
        />
        {d.wanted === 'yes' && (
          <>
            <TextField id="change-to" label="To whom" {...form.of('to', { to: errors['law.to']! })} />
            <TextField id="change-by" label="By when" type="date" {...form.of('by', { by: errors['law.by']! })} />
            <TextField
              id="change-number"
              label="Their number"
              {...form.of('number', { number: errors['law.number']! })}
            />
          </>
        )}
        <TextField id="change-maker" label="What the machine’s maker says" rows={2} {...form.of('makerSays', errors)} />
        <Fold title="What helps to find the cause">
          <FactFields facts={facts} put={setFacts} errors={errors} />
        </Fold>
      </Act>
    </Fold>
  )
}

function Teach({ incident: i }: { incident: Schemas['IncidentResponse'] }) {
  const [words, setWords] = useState(i.lesson ?? '')
  const teach = useAction(() =>
    answer(client.POST('/api/incidents/{id}/lesson', { params: { path: { id: i.id } }, body: { words } })),
  )
  if (!i.may.teach) return null
  return (
    <Fold title={i.lesson ? 'Change the teaching case' : 'Make it a teaching case'}>
      <Act
        act={teach}
        button="Publish it"
        fields={['words']}
        done={teach.isSuccess && 'Everybody who signs in may read it.'}
      >
        <TextField
          id="lesson-words"
          label="What others learn from it, without names; empty takes it back"
          rows={4}
          value={words}
          put={setWords}
          error={fieldErrors(teach.error).words}
        />
      </Act>
    </Fold>
  )
}
