import { Link } from 'react-router'
import type { Schemas } from '../kit/api'
import { Failure, Loading, PageHead } from '../kit/parts'
import { hasRole, useMachines, useSession } from '../kit/session'
import { lengthIn, useUnit } from '../kit/units'
import { Standing } from '../kit/Standing'
import { Locks } from '../upkeep'
import { Controllers } from './Controllers'
import { AtPlace } from './AtPlace'
import { Screens } from './Screens'
import { ReturnAct, StopAct } from './StopMachines'
import { Upkeep } from './Upkeep'
import machinesCss from './machines.module.css'

/** The machines, and the one press that stops each. */
export function MachinesPage() {
  const { me } = useSession()
  const machines = useMachines()
  return (
    <>
      <PageHead title="Machines" sub="Anyone may stop a machine. Few return it to service." />
      {hasRole(me, 'steward', 'trainer', 'keeper') && (
        <p className="small">
          <a href="/api/who-may-run.pdf">Who may run in the coming week, on paper (PDF)</a>, for days without the server
        </p>
      )}
      {machines.isPending && <Loading what="the machines" />}
      <Failure error={machines.error} retry={() => void machines.refetch()} />
      <ul className={machinesCss.machines}>
        {machines.data?.map((m) => (
          <Machine key={m.id} machine={m} />
        ))}
      </ul>
    </>
  )
}

const framings: Record<NonNullable<Schemas['MachineResponse']['framing']>, string> = {
  pointerLidOpen: 'lid open, pointer only',
  pointerLidShut: 'lid shut, pointer only',
  beamOffLidShut: 'lid shut, high voltage off',
  byHand: 'by hand, beam off',
}

function Machine({ machine }: { machine: Schemas['MachineResponse'] }) {
  const { me, time } = useSession()
  const unit = useUnit()
  const kind = { co2: 'CO₂ gas, 10.6 µm, invisible', diode: 'blue diode, 450 nm', fibre: 'fibre, 1064 nm, invisible' }[
    machine.kind
  ]
  const air = {
    ducted: 'ducted outdoors',
    filtered: 'filtered, back into the room: a filter removes no carbon monoxide',
    both: 'filtered and ducted',
  }[machine.extraction]
  const size = (across: number, down: number) => `${lengthIn(unit, across)} × ${lengthIn(unit, down)} ${unit}`
  return (
    <li data-machine={machine.id}>
      <div>
        <h2>{machine.name}</h2>
        {machine.stop ? <Standing standing="shut" word="Stopped" /> : <Standing standing="clear" word="In service" />}
      </div>
      <dl>
        <dt>Laser</dt>
        <dd>
          {machine.powerW} W, {kind}, class {machine.laserClass}
          {machine.classWhy && <span className="small d-block">{machine.classWhy}</span>}
        </dd>
        <dt>Bed</dt>
        <dd>
          {size(machine.bedWidthMm, machine.bedHeightMm)}, usable {size(machine.usableWidthMm, machine.usableHeightMm)}
        </dd>
        <dt>Cuts</dt>
        <dd>{machine.maxCutMm > 0 ? `to ${lengthIn(unit, machine.maxCutMm)} ${unit}` : 'nothing: it marks'}</dd>
        <dt>Extraction</dt>
        <dd>{air}</dd>
        <dt>Lid after a run</dt>
        <dd>
          {machine.lidShutSeconds == null
            ? 'stays shut: the airflow was never measured'
            : `stays shut ${machine.lidShutSeconds} s at least, and until no smoke is to be seen`}
        </dd>
        <dt>Home corner</dt>
        <dd>{machine.homeCorner}</dd>
        {machine.focusMethods.length > 0 && (
          <>
            <dt>Focus</dt>
            <dd>{machine.focusMethods.join(', ')}</dd>
          </>
        )}
        {machine.framing && (
          <>
            <dt>Framing</dt>
            <dd>{framings[machine.framing]}</dd>
          </>
        )}
        {machine.fixtures.length > 0 && (
          <>
            <dt>Fixtures</dt>
            <dd>{machine.fixtures.join(', ')}</dd>
          </>
        )}
      </dl>
      <div>
        {machine.stop ? (
          <>
            <p>
              Stopped {time.moment(machine.stop.since)} by {machine.stop.by}: {machine.stop.reason}
            </p>
            <Locks machine={machine} />
            {machine.stop.incidentId ? (
              <p>
                It comes back on the page of its incident.{' '}
                <Link to={`/incidents/${machine.stop.incidentId}`}>See it</Link>
              </p>
            ) : hasRole(me, 'steward') || me.roles.includes(`repair:${machine.id}`) ? (
              <ReturnAct machine={machine} />
            ) : (
              <p className="small quiet">
                Its repairer, or a steward where nothing was touched, returns it to service.
              </p>
            )}
          </>
        ) : (
          <StopAct machine={machine} />
        )}
        <p className={machinesCss.links}>
          <Link to={`/station/${machine.id}`}>At the machine</Link> <a href={`/at/${machine.id}`}>Its page</a>{' '}
          <a href={`/emergency/${machine.id}`}>Emergency card</a> <a href={`/near-miss/${machine.id}`}>Near miss</a>{' '}
          <a href={`/api/machines/${machine.id}/near-miss-code.pdf`}>Near-miss code (PDF)</a>{' '}
          <a href={`/api/machines/${machine.id}/page-code.pdf`}>Code for its page (PDF)</a>{' '}
          <a href={`/api/machines/${machine.id}/without-screen.pdf`}>A run on paper (PDF)</a>{' '}
          <Link to={`/machines/${machine.id}/run-times`}>Run times</Link>
        </p>
        <Upkeep machineId={machine.id} />
        {hasRole(me, 'keeper') && <Controllers machine={machine} />}
        {hasRole(me, 'keeper') && <Screens machine={machine} />}
        {hasRole(me, 'keeper') && <AtPlace machine={machine} />}
      </div>
    </li>
  )
}
