import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import Form from 'react-bootstrap/Form'
import { useNavigate, useSearchParams } from 'react-router'
import { Act, Fold, useAction } from '../kit/Act'
import { answer, client } from '../kit/api'
import { fieldErrors, PageHead, RunOn, SelectField, TextField } from '../kit/parts'
import { hasRole, useMachines, useSession } from '../kit/session'
import { typedNumber } from '../kit/typed'
import { useDraft } from '../kit/useDraft'
import { FactFields, factsOf, noFacts } from './FactFields'
import { Severity } from './Severity'
import { choicesQuery } from './incidentQueries'
import { runsNear } from './runsNear'
import css from './incidents.module.css'

/** It is over: what happened, in the order somebody remembers it. */
export function TellPage() {
  const { me, now, time } = useSession()
  const [search] = useSearchParams()
  const machines = useMachines()
  const runs = useQuery(runsNear)
  const choices = useQuery(choicesQuery)
  const navigate = useNavigate()
  const staff = hasRole(me, 'steward')
  const [at, setAt] = useState(() => `${time.iso(now())}T${time.clock(now())}`)
  const [what, setWhat] = useState(search.get('what') ?? '')
  const [machine, setMachine] = useState(search.get('machine') ?? '')
  const [run, setRun] = useState('')
  const [severity, setSeverity] = useState<number | null>(null)
  const [there, setThere] = useState(!staff)
  const [ticks, setTicks] = useState({ fireService: false, hurt: false, marked: false })
  const words = useDraft({ seen: '', damage: '', cost: '', putOut: '', injury: '', tag: '' })
  const [facts, setFacts] = useState(noFacts)
  const tell = useAction(
    () =>
      answer(
        client.POST('/api/incidents', {
          body: {
            machineId: machine === 'room' ? '' : machine,
            at,
            what,
            severity,
            runId: run,
            seen: words.draft.seen,
            damage: words.draft.damage,
            cost: typedNumber(words.draft.cost),
            fireService: ticks.fireService,
            marked: ticks.marked,
            hurt: ticks.hurt,
            injury: words.draft.injury,
            putOut: words.draft.putOut,
            tag: words.draft.tag,
            facts: factsOf(facts),
            notThere: !there,
          },
        }),
      ),
    (made) => void navigate(`/incidents/${made.id}`),
  )
  const errors = fieldErrors(tell.error)
  const chosen = choices.data?.mishaps.find((m) => m.what === what)
  const mine = (runs.data ?? []).filter((r) => r.machineId === machine)
  const tick = (field: keyof typeof ticks, label: string) => (
    <Form.Check
      id={`incident-${field}`}
      label={label}
      checked={ticks[field]}
      onChange={(event) => setTicks({ ...ticks, [field]: event.target.checked })}
    />
  )
  return (
    <>
      <PageHead title="Tell what happened" sub="Only once it is over. Telling is never held against anybody." />
      <p className={css.first}>
        <b>Still burning, glowing or smelling?</b> The card first: <a href={`/emergency/${machine || ''}`}>Emergency</a>
        .
      </p>
      <Act
        act={tell}
        button="Save the incident"
        fields={['machineId', 'at', 'what', 'severity', 'seen', 'damage', 'cost', 'putOut', 'tag', 'runId', 'injury']}
      >
        <div className={css.tell}>
          <div>
            <RunOn title="What, where, when" />
            <SelectField
              id="incident-what"
              label="What happened"
              value={what}
              put={setWhat}
              error={errors.what}
              options={[
                ['', 'Choose'],
                ...(choices.data?.mishaps ?? []).map((m) => [m.what as string, m.words] as const),
              ]}
            />
            <SelectField
              id="incident-machine"
              label="Where"
              value={machine}
              put={(value) => {
                setMachine(value)
                setRun('')
              }}
              error={errors.machineId}
              options={[
                ['', 'Choose'],
                ...(machines.data ?? []).map((m) => [m.id, m.name] as const),
                ['room', 'The room, no machine'],
              ]}
            />
            <TextField
              id="incident-at"
              label="When, on the clock of the house"
              type="datetime-local"
              value={at}
              put={setAt}
              error={errors.at}
            />
            {mine.length > 0 && (
              <SelectField
                id="incident-run"
                label="The run it happened in"
                value={run}
                put={setRun}
                error={errors.runId}
                options={[
                  ['', 'None that was logged'],
                  ...mine.map((r) => [r.id, `${time.moment(r.start)}, ${r.name}, ${r.materialName}`] as const),
                ]}
              />
            )}
            <Form.Check
              id="incident-there"
              className="mb-2"
              label="I was there"
              checked={there}
              onChange={(event) => setThere(event.target.checked)}
            />
            {chosen?.shutsRoom && (
              <p className={css.warn}>Saving it shuts the room, and holds the sheet, until a steward says so.</p>
            )}
            {chosen?.stopsMachine && machine && machine !== 'room' && (
              <p className={css.warn}>Saving it puts the machine out of service, and calls the stewards.</p>
            )}
          </div>
          <div>
            <RunOn title="How bad, and what you saw" />
            <Severity value={severity} put={setSeverity} error={errors.severity} />
            <TextField id="incident-seen" label="What was seen, in order" rows={4} {...words.of('seen', errors)} />
            <TextField id="incident-putOut" label="What put it out" {...words.of('putOut', errors)} />
            {tick('hurt', 'Somebody was hurt')}
            {ticks.hurt && (
              <TextField
                id="incident-injury"
                label="The injury and what was done: stewards and keepers alone see it"
                rows={2}
                {...words.of('injury', errors)}
              />
            )}
            {tick('marked', 'Anything burnt, marked or scrapped')}
            {tick('fireService', 'The fire service was called to be safe')}
            <TextField id="incident-damage" label="Damage" {...words.of('damage', errors)} />
            <TextField id="incident-cost" label="Cost, if known" inputMode="decimal" {...words.of('cost', errors)} />
            <TextField
              id="incident-tag"
              label="Tag of the sheet, if the run does not name it"
              {...words.of('tag', errors)}
            />
          </div>
        </div>
        <Fold title="What helps to find the cause">
          <FactFields facts={facts} put={setFacts} errors={errors} />
        </Fold>
      </Act>
    </>
  )
}
