import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { Link } from 'react-router'
import { Act, Fold, useAction } from '../kit/Act'
import { answer, client, type Schemas } from '../kit/api'
import { Empty, Failure, fieldErrors, Loading, PageHead, SelectField, TextField } from '../kit/parts'
import { hasRole, useMachines, useSession } from '../kit/session'
import { useDraft } from '../kit/useDraft'
import { inductionsQuery } from './trainingQueries'
import trainingCss from './training.module.css'

type Session = Schemas['InductionResponse']

/** Sessions at the machine, in small groups. */
export function InductionsPage() {
  const { me } = useSession()
  const sessions = useQuery(inductionsQuery)
  const teaches = hasRole(me, 'trainer', 'steward')
  return (
    <>
      <PageHead title="Inductions" sub="At the machine, in small groups, with one of its trainers.">
        <Link to="/training">Certificates</Link>
        <Link to="/training/ladder">Your way to the machines</Link>
      </PageHead>
      {sessions.isPending && <Loading what="the sessions" />}
      <Failure error={sessions.error} retry={() => void sessions.refetch()} />
      {teaches && <PlanSession />}
      {sessions.data &&
        (sessions.data.length === 0 ? (
          <Empty title="No session is planned">Trainers plan them; ask one of the machine you want to learn.</Empty>
        ) : (
          <ul className={trainingCss.sessions}>
            {sessions.data.map((s) => (
              <SessionCard key={s.id} session={s} />
            ))}
          </ul>
        ))}
    </>
  )
}

function SessionCard({ session }: { session: Session }) {
  const { time, now, me } = useSession()
  const params = { params: { path: { id: session.id } } }
  const take = useAction(() => answer(client.POST('/api/inductions/{id}/place', params)))
  const leave = useAction(() => answer(client.POST('/api/inductions/{id}/leave', params)))
  const begun = Date.parse(session.start) <= now()
  const own = session.trainerId === me.memberId
  return (
    <li className={session.cancelled ? trainingCss.off : undefined} data-session={session.id}>
      <h2>
        {session.machine}, {time.moment(session.start)} to {time.clock(session.end)}
      </h2>
      <p className="mb-1">
        With {session.trainer}.{' '}
        {session.cancelled ? (
          <b>Called off.</b>
        ) : (
          `${session.free} of ${session.places} ${session.places === 1 ? 'place' : 'places'} free.`
        )}
      </p>
      {session.taken.length > 0 && !(begun && session.mayCall) && (
        <p className="small mb-1">
          {session.taken
            .map(
              (t) =>
                `${t.name}${t.attended === true ? ' (was there)' : t.attended === false ? ' (was not there)' : ''}`,
            )
            .join(', ')}
        </p>
      )}
      {!session.cancelled && !begun && !own && (
        <>
          {session.mine ? (
            <>
              <b>You have a place.</b>{' '}
              <button type="button" className="quietlink" disabled={leave.isPending} onClick={() => leave.mutate()}>
                Give it back
              </button>
            </>
          ) : (
            <Button size="sm" disabled={take.isPending || session.free === 0} onClick={() => take.mutate()}>
              {session.free === 0 ? 'Full' : 'Take a place'}
            </Button>
          )}
        </>
      )}
      <Failure error={take.error ?? leave.error} />
      {session.mayCall &&
        !session.cancelled &&
        (begun ? <RollCall session={session} /> : <CallOff session={session} />)}
    </li>
  )
}

function RollCall({ session }: { session: Session }) {
  const [there, setThere] = useState<Record<string, boolean>>(() =>
    Object.fromEntries(session.taken.map((t) => [t.personId, t.attended ?? false])),
  )
  const call = useAction(() =>
    answer(client.POST('/api/inductions/{id}/roll', { params: { path: { id: session.id } }, body: { there } })),
  )
  if (session.taken.length === 0) return <p className="small quiet mb-0">Nobody had a place.</p>
  return (
    <Act act={call} button="Call the roll" fields={[]} done={call.isSuccess && 'Saved.'}>
      <fieldset className="mb-2">
        <legend className="form-label">Who was there?</legend>
        {session.taken.map((t) => (
          <Form.Check
            key={t.personId}
            id={`roll-${session.id}-${t.personId}`}
            label={t.name}
            checked={there[t.personId] ?? false}
            onChange={(e) => setThere({ ...there, [t.personId]: e.target.checked })}
          />
        ))}
      </fieldset>
    </Act>
  )
}

function CallOff({ session }: { session: Session }) {
  const [reason, setReason] = useState('')
  const off = useAction(() =>
    answer(client.POST('/api/inductions/{id}/cancel', { params: { path: { id: session.id } }, body: { reason } })),
  )
  return (
    <Fold title="Call it off">
      <Act act={off} button="Call it off" danger fields={['reason']}>
        <TextField
          id={`off-${session.id}`}
          label="Why, for those with a place"
          rows={2}
          value={reason}
          put={setReason}
          error={fieldErrors(off.error).reason}
        />
      </Act>
    </Fold>
  )
}

function PlanSession() {
  const { me, time, now } = useSession()
  const machines = (useMachines().data ?? []).filter(
    (m) => hasRole(me, 'steward') || me.roles.includes(`trainer:${m.id}`),
  )
  const [machine, setMachine] = useState('')
  const { draft, of } = useDraft({ date: time.iso(now()), time: '18:00', minutes: '90', places: '3' })
  const machineId = machine || machines[0]?.id || ''
  const trainers = useQuery({
    queryKey: ['live', 'trainers', machineId],
    queryFn: async ({ signal }) =>
      (await answer(client.GET('/api/machines/{id}/trainers', { params: { path: { id: machineId } }, signal }))).items,
    enabled: machineId !== '' && hasRole(me, 'steward'),
  })
  const [trainer, setTrainer] = useState('')
  const own = me.roles.includes(`trainer:${machineId}`) ? me.memberId : undefined
  const teacher = trainers.data?.some((t) => t.id === trainer) ? trainer : (own ?? trainers.data?.[0]?.id)
  const plan = useAction(() =>
    answer(
      client.POST('/api/inductions', {
        body: {
          machineId,
          trainerId: teacher,
          date: draft.date,
          time: draft.time,
          minutes: Number(draft.minutes) || 0,
          places: Number(draft.places) || 0,
        },
      }),
    ),
  )
  const errors = fieldErrors(plan.error)
  return (
    <Fold title="Plan a session">
      <Act
        act={plan}
        button="Plan it"
        fields={['machineId', 'trainerId', 'date', 'time', 'minutes', 'places']}
        done={plan.data && 'Planned. The machine and its trainer are kept for it.'}
      >
        <div className={trainingCss.fieldrow}>
          <SelectField
            id="session-machine"
            label="Machine"
            value={machineId}
            put={setMachine}
            options={machines.map((m) => [m.id, m.name] as const)}
            error={errors.machineId}
          />
          {!!trainers.data?.length && (
            <SelectField
              id="session-trainer"
              label="Trainer"
              value={teacher ?? ''}
              put={setTrainer}
              options={trainers.data.map((t) => [t.id, t.name] as const)}
              error={errors.trainerId}
            />
          )}
          <TextField id="session-date" label="Day" type="date" {...of('date', errors)} />
          <TextField id="session-time" label="From" type="time" {...of('time', errors)} />
          <TextField id="session-minutes" label="Minutes" inputMode="numeric" {...of('minutes', errors)} />
          <TextField id="session-places" label="Places" inputMode="numeric" {...of('places', errors)} />
        </div>
      </Act>
    </Fold>
  )
}
