import { queryOptions, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link, useParams } from 'react-router'
import { Act, Fold, useAction } from '../kit/Act'
import { answer, client, type Schemas } from '../kit/api'
import { Failure, fieldErrors, Loading, PageHead, SelectField, TextField } from '../kit/parts'
import { hasRole, peopleQuery, useMachines, useSession } from '../kit/session'
import conductCss from './conduct.module.css'

type Entry = Schemas['ConductResponse']
type Matter = Schemas['ConductMatter']
type Step = Schemas['ConductStep']

const conductQuery = (person: string) =>
  queryOptions({
    queryKey: ['live', 'conduct', person],
    queryFn: async ({ signal }) =>
      (await answer(client.GET('/api/people/{id}/conduct', { params: { path: { id: person } }, signal }))).items,
  })

const matters: Record<Matter, string> = {
  leftRunning: 'Left a running laser',
  interlockBypassed: 'Bypassed an interlock',
  neverStock: 'Cut stock that is never allowed',
  other: 'Something else',
}
const steps: Record<Step, string> = {
  note: 'A note',
  warning: 'A warning',
  lastWarning: 'A last warning',
  pause: 'A pause',
}

/** What happened with a person, what followed, and appeals. */
export function ConductPage() {
  const { person = '' } = useParams()
  const { me } = useSession()
  const people = useQuery(peopleQuery)
  const mine = person === me.memberId
  const name = mine ? 'Your conduct' : `${people.data?.find((p) => p.id === person)?.name ?? 'Somebody'}: conduct`
  const entries = useQuery(conductQuery(person))
  return (
    <>
      <PageHead title={name} sub="What happened, what followed, and what came of appeals.">
        <Link to={mine ? '/me' : `/training?person=${person}`}>{mine ? 'You' : 'Back to the person'}</Link>
      </PageHead>
      {hasRole(me, 'steward') && !mine && (
        <div className={conductCss.conductwrite}>
          <Write person={person} />
        </div>
      )}
      {entries.isPending && <Loading what="the entries" />}
      <Failure error={entries.error} retry={() => void entries.refetch()} />
      {entries.data?.length === 0 && <p>Nothing is written.</p>}
      {entries.data?.map((e) => (
        <EntryCard key={e.id} entry={e} />
      ))}
    </>
  )
}

function EntryCard({ entry }: { entry: Entry }) {
  const { time } = useSession()
  const machines = useMachines().data ?? []
  const [text, setText] = useState('')
  const params = { path: { id: entry.id } }
  const appeal = useAction(() => answer(client.POST('/api/conduct/{id}/appeal', { params, body: { text } })))
  const { appeal: made } = entry
  return (
    <section className={conductCss.conductentry} data-entry={entry.id}>
      <h2>
        {steps[entry.step]}: {matters[entry.matter].toLowerCase()}
        {entry.machineId && `, ${machines.find((m) => m.id === entry.machineId)?.name ?? entry.machineId}`}
      </h2>
      <p className="mb-1">{entry.text ?? 'Text erased.'}</p>
      <p className="small quiet mb-1">
        {time.moment(entry.at)}, {entry.writtenBy}.
        {entry.step !== entry.byRule && ` The ladder said: ${steps[entry.byRule].toLowerCase()}.`}
      </p>
      {made && (
        <div className="proposal">
          <p className="mb-1">
            <b>Appeal of {time.day(made.at)}:</b> {made.text ?? 'text erased'}
          </p>
          <p className="mb-0">
            {made.outcome ? (
              <>
                <b>{made.outcome === 'lifted' ? 'Granted' : 'Not granted'}</b>, heard by {made.heardBy} on{' '}
                {time.date(made.heardOn!)}: {made.outcomeText ?? 'text erased'}
              </>
            ) : (
              'Waiting for somebody who was not involved.'
            )}
          </p>
        </div>
      )}
      {entry.mayAppeal && (
        <Fold title="Appeal">
          <Act act={appeal} button="Ask for a hearing" fields={['text']}>
            <TextField
              id={`appeal-${entry.id}`}
              label="Why it should be looked at again"
              rows={3}
              value={text}
              put={setText}
              error={fieldErrors(appeal.error).text}
            />
          </Act>
        </Fold>
      )}
      {entry.mayHear && <Hear id={entry.id} />}
    </section>
  )
}

function Hear({ id }: { id: string }) {
  const { time, now } = useSession()
  const [outcome, setOutcome] = useState<'upheld' | 'lifted'>('upheld')
  const [heardOn, setHeardOn] = useState(time.iso(now()))
  const [text, setText] = useState('')
  const hear = useAction(() =>
    answer(client.POST('/api/conduct/{id}/hear', { params: { path: { id } }, body: { outcome, heardOn, text } })),
  )
  const errors = fieldErrors(hear.error)
  return (
    <Fold title="Hear the appeal">
      <Act act={hear} button="Save the outcome" fields={['outcome', 'heardOn', 'text']}>
        <SelectField
          id={`outcome-${id}`}
          label="Outcome"
          value={outcome}
          put={setOutcome}
          options={[
            ['upheld', 'Not granted'],
            ['lifted', 'Granted: the entry does not count, its pause ends'],
          ]}
          error={errors.outcome}
        />
        <TextField
          id={`heard-${id}`}
          label="Heard on"
          type="date"
          value={heardOn}
          put={setHeardOn}
          error={errors.heardOn}
        />
        <TextField
          id={`why-${id}`}
          label="What was said, and why"
          rows={3}
          value={text}
          put={setText}
          error={errors.text}
        />
      </Act>
    </Fold>
  )
}

function Write({ person }: { person: string }) {
  const machines = useMachines().data ?? []
  const next = useQuery({
    queryKey: ['live', 'conduct', person, 'next'],
    queryFn: ({ signal }) =>
      answer(client.GET('/api/people/{id}/conduct/next', { params: { path: { id: person } }, signal })),
  })
  const [matter, setMatter] = useState<Matter>('other')
  const [step, setStep] = useState<Step | ''>('')
  const [machineId, setMachine] = useState('')
  const [text, setText] = useState('')
  const write = useAction(
    () =>
      answer(
        client.POST('/api/people/{id}/conduct', {
          params: { path: { id: person } },
          body: { matter, step, machineId, text },
        }),
      ),
    () => setText(''),
  )
  const errors = fieldErrors(write.error)
  const rule = next.data?.[matter]
  return (
    <Fold title="Add an entry">
      <Act
        act={write}
        button="Save it"
        fields={['matter', 'step', 'machineId', 'text']}
        done={write.data && 'Saved. The person was told, and may appeal.'}
      >
        <SelectField
          id="matter"
          label="What happened"
          value={matter}
          put={setMatter}
          options={Object.entries(matters) as [Matter, string][]}
          error={errors.matter}
        />
        <SelectField
          id="step"
          label="What follows"
          value={step}
          put={setStep}
          options={[
            ['', rule ? `By the ladder: ${steps[rule].toLowerCase()}` : 'By the ladder'],
            ...(Object.entries(steps) as [Step, string][]),
          ]}
          error={errors.step}
        />
        <SelectField
          id="conduct-machine"
          label="On"
          value={machineId}
          put={setMachine}
          options={[['', 'no machine'], ...machines.map((m) => [m.id, m.name] as const)]}
          error={errors.machineId}
        />
        <TextField
          id="conduct-text"
          label="What was seen, and by whom"
          rows={3}
          value={text}
          put={setText}
          error={errors.text}
        />
      </Act>
    </Fold>
  )
}
