import { Link, useParams } from 'react-router'
import { Failure, Loading } from '../kit/parts'
import { useSession } from '../kit/session'
import { Beam } from './Beam'
import { Closing } from './Closing'
import { Readings } from './Readings'
import { Steps } from './Steps'
import { StopBar } from './StopBar'
import { useDoing, useStation, useTap, useTick, type Session, type Station } from './useStation'
import css from './station.module.css'

/** At one machine, from tapping in to tapping out: on a tablet beside it, or on the person's own phone. */
export function StationPage() {
  const { machine = '' } = useParams()
  const station = useStation(machine)
  if (station.isPending)
    return (
      <main className={css.station}>
        <Loading what="the machine" />
      </main>
    )
  if (!station.data)
    return (
      <main className={css.station}>
        <Failure error={station.error} retry={() => void station.refetch()} />
        <Link to="/machines">Machines</Link>
      </main>
    )
  const s = station.data
  return (
    <main className={css.station} data-step={s.session?.step ?? 'idle'}>
      <Head station={s} />
      {station.isError && (
        <p className={css.lost} role="alert">
          No word from the house since a while: what is shown may be old. The machine’s own stops are what stops it.
        </p>
      )}
      {s.session ? <Open key={s.session.id} station={s} session={s.session} /> : <Idle station={s} />}
    </main>
  )
}

function Head({ station }: { station: Station }) {
  const { time } = useSession()
  const at = useTick()
  return (
    <header className={css.head}>
      <h1>{station.machineName}</h1>
      {station.session && (
        <p>
          <b>{station.session.name}</b>
          <span>
            since {time.clock(station.session.tappedIn)}, booked to {time.clock(station.session.until)}
          </span>
        </p>
      )}
      <p className={css.clock}>
        <b>{time.clock(at)}</b>
        <span>{time.day(at)}</span>
      </p>
      <a className={css.emergency} href={`/emergency/${station.machineId}`}>
        <b>Emergency</b>
        <span>fire, fume, hurt</span>
      </a>
    </header>
  )
}

/** Nobody is tapped in. */
function Idle({ station }: { station: Station }) {
  const { time } = useSession()
  const tap = useTap(station.machineId)
  const { booking, busy, next } = station
  const one = (
    <section className={css.one}>
      {busy && !booking ? (
        <>
          <h2>{busy.name} is at this machine</h2>
          <p>Since {time.clock(busy.start)}. They tap out first.</p>
        </>
      ) : booking ? (
        <>
          <h2>
            Your time: {time.clock(booking.start)} to {time.clock(booking.end)}
          </h2>
          {booking.why ? (
            <p>{booking.why}</p>
          ) : (
            <button
              type="button"
              className={css.main}
              disabled={tap.isPending}
              onClick={() => tap.mutate(crypto.randomUUID())}
            >
              Tap in
            </button>
          )}
        </>
      ) : (
        <>
          <h2>You have no time here now</h2>
          <p>
            <Link to={`/ask?machine=${station.machineId}`}>Ask the gate</Link> for it first.
          </p>
        </>
      )}
      <Failure error={tap.error} />
      {busy && booking && <p>{busy.name} has not tapped out: your tapping in does it, and the stewards hear of it.</p>}
      {next && (
        <p>
          Next: <b>{next.name}</b>, {time.moment(next.start)}
        </p>
      )}
      <p>
        <a href={`/at/${station.machineId}`}>{station.machineName}’s page</a>: switching on and off, stops, focus.{' '}
        <Link to="/machines">All machines</Link>
      </p>
      <p className={css.only}>{station.safety}</p>
    </section>
  )
  return station.live ? (
    <div className={css.two}>
      {one}
      <Readings station={station} />
    </div>
  ) : (
    one
  )
}

function Open({ station, session }: { station: Station; session: Session }) {
  const doing = useDoing(station.machineId, session)
  const { step } = session
  const props = { station, session, doing }
  return (
    <>
      {step === 'running' || step === 'wait' ? (
        <Beam {...props} />
      ) : step === 'unload' || step === 'next' || step === 'close' ? (
        <Closing {...props} />
      ) : (
        <Steps {...props} />
      )}
      <footer className={css.foot} data-stop={(session.controlled && step === 'running') || undefined}>
        {session.controlled && step === 'running' && <StopBar station={station} doing={doing} />}
        <p className={css.only}>{station.safety}</p>
        {step !== 'running' && step !== 'wait' && step !== 'unload' && step !== 'close' && (
          <button
            type="button"
            className="quietlink"
            disabled={doing.isPending}
            onClick={() => doing.mutate({ act: 'tapOut' })}
          >
            Tap out
          </button>
        )}
        {step !== 'running' && (
          <>
            <a href={`/at/${station.machineId}`}>{station.machineName}’s page</a>
            <Link to="/watch">Watch</Link>
          </>
        )}
      </footer>
    </>
  )
}
