import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { Act, Fold, useAction, usePress } from '../kit/Act'
import { answer, client, type Schemas } from '../kit/api'
import { Failure, fieldErrors, RunOn, TextField } from '../kit/parts'
import { Standing } from '../kit/Standing'
import { useSession } from '../kit/session'
import css from './incidents.module.css'

type Hold = Schemas['IncidentHoldResponse']

/** What is held until somebody has looked, and what else could be. */
export function Holds({ incident: i }: { incident: Schemas['IncidentResponse'] }) {
  const count = (state: string) => i.holds.filter((h) => h.state === state).length
  return (
    <section>
      <RunOn title="Holds" after={`${count('set')} set, ${count('proposed')} proposed`} />
      {i.holds.length === 0 && <p className="quiet">Nothing has to be held after this.</p>}
      <ul className={css.holds}>
        {i.holds.map((h) => (
          <HoldLine key={`${h.kind} ${h.target}`} hold={h} incident={i} />
        ))}
      </ul>
    </section>
  )
}

function HoldLine({ hold: h, incident: i }: { hold: Hold; incident: Schemas['IncidentResponse'] }) {
  const { time } = useSession()
  const risk = i.atRisk === 1 ? '1 booking at risk.' : `${i.atRisk} bookings at risk.`
  return (
    <li data-hold={h.kind}>
      <div className={css.holdhead}>
        <b>{h.title}</b>
        <Standing
          standing={h.state === 'set' ? 'shut' : h.state === 'proposed' ? 'ask' : 'clear'}
          word={{ set: 'Set', proposed: 'Proposed', ended: 'Ended', refused: 'Not needed' }[h.state]}
        />
      </div>
      <p>
        {h.reason} {h.state === 'set' && `Set ${time.clock(h.at!)} by ${h.by}.`}{' '}
        {h.state === 'set' && h.kind === 'machine' && i.atRisk > 0 && `${risk} Each is told once.`}
        {h.state === 'ended' && `Ended ${time.moment(h.endedAt!)} by ${h.endedBy}: ${h.words}`}
        {h.state === 'refused' && h.words}
      </p>
      {h.state === 'proposed' && i.may.setHolds && <Decide hold={h} id={i.id} />}
      {h.state === 'set' && i.may.endHolds && <End hold={h} incident={i} />}
    </li>
  )
}

function Decide({ hold: h, id }: { hold: Hold; id: string }) {
  const [reason, setReason] = useState('')
  const set = usePress(() =>
    answer(
      client.POST('/api/incidents/{id}/holds', {
        params: { path: { id } },
        body: { holds: [{ kind: h.kind, target: h.target, reason: h.reason }] },
      }),
    ),
  )
  const refuse = useAction(() =>
    answer(
      client.POST('/api/incidents/{id}/holds/refuse', {
        params: { path: { id } },
        body: { kind: h.kind, target: h.target, reason },
      }),
    ),
  )
  return (
    <>
      <Button size="sm" disabled={set.isPending} onClick={() => set.mutate()}>
        {h.press}
      </Button>
      <Failure error={set.error} />
      <Fold title="Not needed, say why">
        <Act act={refuse} button="It is not needed" fields={['reason']}>
          <TextField
            id={`refuse-${h.kind}`}
            label="Why"
            value={reason}
            put={setReason}
            error={fieldErrors(refuse.error).reason}
          />
        </Act>
      </Fold>
    </>
  )
}

function End({ hold: h, incident: i }: { hold: Hold; incident: Schemas['IncidentResponse'] }) {
  const [reason, setReason] = useState('')
  const [checks, setChecks] = useState<string[]>([])
  const [optics, setOptics] = useState(false)
  const end = useAction(() =>
    answer(
      client.POST('/api/incidents/{id}/holds/{hold}/end', {
        params: { path: { id: i.id, hold: h.id! } },
        body: { reason, checks, opticsTouched: optics },
      }),
    ),
  )
  const errors = fieldErrors(end.error)
  return (
    <Fold title={h.kind === 'room' ? 'The room is aired' : h.kind === 'machine' ? 'I have looked' : 'End it'}>
      {h.kind === 'room' && (
        <p className={css.small}>
          Open what opens, let the extraction run, and go in only when nothing smells any more. Who felt ill sees a
          doctor first. A rule of thumb: several changes of the room’s air; when in doubt, the fire service measures.
        </p>
      )}
      <Act act={end} button="End the hold" fields={['reason', 'checks']}>
        {h.checks.length > 0 && (
          <fieldset className="mb-2">
            <legend className="form-label">Gone through, each with your own eyes</legend>
            {h.checks.map((c) => (
              <Form.Check
                key={c.code}
                id={`check-${c.code}`}
                label={c.words}
                checked={checks.includes(c.code)}
                onChange={(event) =>
                  setChecks(event.target.checked ? [...checks, c.code] : checks.filter((o) => o !== c.code))
                }
              />
            ))}
            {errors.checks && (
              <div className="invalid-feedback" role="alert">
                {errors.checks.join(' ')}
              </div>
            )}
            <Form.Check
              id="check-optics"
              className="mt-2"
              label="Lens, mirrors, tube or alignment were worked on: its repairer tries it first"
              checked={optics}
              onChange={(event) => setOptics(event.target.checked)}
            />
          </fieldset>
        )}
        <TextField
          id={`end-${h.kind}`}
          label="What was done and found"
          value={reason}
          put={setReason}
          error={errors.reason}
        />
      </Act>
    </Fold>
  )
}
