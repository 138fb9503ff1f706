import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { Link } from 'react-router'
import { Act, Fold, useAction, usePress } from '../kit/Act'
import { answer, client, type Schemas } from '../kit/api'
import { Empty, Failure, Field, fieldErrors, Loading, PageHead, RunOn, TextField } from '../kit/parts'
import { hasRole, peopleQuery, useMachines, useSession } from '../kit/session'
import bookingsCss from './bookings.module.css'

type Fixture = Schemas['FixtureResponse']

/** Rotary, pins, grids: where each is, handed out and taken back. */
export function FixturesPage() {
  const fixtures = useQuery({
    queryKey: ['live', 'fixtures'],
    queryFn: async ({ signal }) => (await answer(client.GET('/api/fixtures', { signal }))).items,
  })
  return (
    <>
      <PageHead title="Fixtures" sub="Single items: booked with a machine, handed out and taken back">
        <Link to="/bookings">Bookings</Link>
      </PageHead>
      {fixtures.isPending && <Loading what="the fixtures" />}
      <Failure error={fixtures.error} retry={() => void fixtures.refetch()} />
      {fixtures.data && (
        <section className="mt-3">
          <RunOn title="In the house" after={fixtures.data.length} />
          {fixtures.data.length === 0 && (
            <Empty title="The house has no fixtures">A keeper names them with each machine, under House.</Empty>
          )}
          <ul className={bookingsCss.feeds}>
            {fixtures.data.map((f) => (
              <Line key={f.id} fixture={f} />
            ))}
          </ul>
        </section>
      )}
    </>
  )
}

function Where({ fixture: f }: { fixture: Fixture }) {
  const { time } = useSession()
  const due = f.due ? time.moment(f.due) : ''
  if (f.state === 'here') return <>At hand.</>
  if (f.state === 'damaged')
    return (
      <>
        <b>Came back damaged</b> {f.since && time.moment(f.since)}
        {f.wrong && `: ${f.wrong}`}. Nobody runs with it until a steward has looked.
      </>
    )
  const who = f.mine ? 'You have it' : f.with ? `${f.with} has it` : 'Somebody has it'
  return f.state === 'overdue' ? (
    <>
      <b>Not back.</b> {who}; it was due {due}.
    </>
  ) : (
    <>
      {who} until {due}.
    </>
  )
}

function Line({ fixture }: { fixture: Fixture }) {
  const { me, time } = useSession()
  const machines = useMachines()
  const staff = hasRole(me, 'steward', 'trainer')
  const names = fixture.machineIds.map((id) => machines.data?.find((m) => m.id === id)?.name ?? id).join(', ')
  const right = usePress(() =>
    answer(client.POST('/api/fixtures/{id}/right', { params: { path: { id: fixture.id } } })),
  )
  const out = fixture.state === 'out' || fixture.state === 'overdue'
  return (
    <li data-fixture={fixture.id}>
      <span>
        <b>{fixture.id}</b> <span className="quiet">for {names}</span>. <Where fixture={fixture} />{' '}
        {fixture.nextAt && <span className="quiet">Next booked {time.moment(fixture.nextAt)}.</span>}
      </span>
      <span>
        {fixture.state === 'damaged' && hasRole(me, 'steward') && (
          <Button size="sm" onClick={() => right.mutate()} disabled={right.isPending}>
            It is in order
          </Button>
        )}
      </span>
      <div className={bookingsCss.address}>
        {fixture.state === 'here' && (
          <Fold title={staff ? 'Hand it out' : 'Take it for my booking'}>
            <HandOut fixture={fixture} staff={staff} />
          </Fold>
        )}
        {out && (staff || fixture.mine) && (
          <Fold title="It is back">
            <TakeBack fixture={fixture} />
          </Fold>
        )}
      </div>
      <Failure error={right.error} />
    </li>
  )
}

function HandOut({ fixture, staff }: { fixture: Fixture; staff: boolean }) {
  const { me } = useSession()
  const people = useQuery({ ...peopleQuery, enabled: staff })
  const [memberId, setMember] = useState(me.memberId)
  const act = useAction(() =>
    answer(
      client.POST('/api/fixtures/{id}/out', { params: { path: { id: fixture.id } }, body: { memberId, due: null } }),
    ),
  )
  return (
    <Act act={act} button="Hand it out" fields={[]}>
      {staff && (
        <Field label="To whom" id={`to-${fixture.id}`}>
          <Form.Select id={`to-${fixture.id}`} value={memberId} onChange={(e) => setMember(e.target.value)}>
            {people.data?.map((p) => (
              <option key={p.id} value={p.id}>
                {p.name}
              </option>
            ))}
          </Form.Select>
        </Field>
      )}
      <p className="small quiet">Due back at the end of their booking with it; without one, in four hours.</p>
    </Act>
  )
}

function TakeBack({ fixture }: { fixture: Fixture }) {
  const [damaged, setDamaged] = useState(false)
  const [note, setNote] = useState('')
  const act = useAction(() =>
    answer(client.POST('/api/fixtures/{id}/back', { params: { path: { id: fixture.id } }, body: { damaged, note } })),
  )
  const errors = fieldErrors(act.error)
  return (
    <Act act={act} button="It came back" fields={['note']}>
      <Form.Check
        id={`damaged-${fixture.id}`}
        label="It is damaged or worn"
        checked={damaged}
        onChange={(e) => setDamaged(e.target.checked)}
      />
      {damaged && (
        <TextField
          id={`wrong-${fixture.id}`}
          label="What is wrong with it"
          value={note}
          put={setNote}
          error={errors.note}
        />
      )}
    </Act>
  )
}
