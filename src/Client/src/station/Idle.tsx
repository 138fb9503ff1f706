import { Link } from 'react-router'
import { Failure } from '../kit/parts'
import { hasRole, useSession } from '../kit/session'
import { Readings } from './Readings'
import { EnrolScreen } from './EnrolScreen'
import { Beside, TapForm } from './Tapping'
import { useTap, type Station } from './useStation'
import css from './station.module.css'

/** Nobody is tapped in, or somebody whom the one who looks is not. */
export function Idle({ station }: { station: Station }) {
  const { time, me } = useSession()
  const tap = useTap(station.machineId)
  const { booking, busy, next } = station
  const one = (
    <section className={css.one}>
      {busy && !booking ? (
        <>
          <h2>{busy.name} is at this machine</h2>
          <p>Since {time.clock(busy.start)}. They tap out first.</p>
          <Beside station={station} />
        </>
      ) : station.screen ? (
        <>
          <h2>{busy ? `${busy.name} has not tapped out` : 'Nobody is tapped in'}</h2>
          {busy && <p>Your tapping in does it, and the stewards hear of it.</p>}
          <TapForm station={station} />
        </>
      ) : booking ? (
        <>
          <h2>
            Your time: {time.clock(booking.start)} to {time.clock(booking.end)}
          </h2>
          {booking.why ? (
            <p>{booking.why}</p>
          ) : (
            <button type="button" className={css.main} disabled={tap.isPending} onClick={() => tap.mutate({})}>
              Tap in
            </button>
          )}
          {busy && <p>{busy.name} has not tapped out: your tapping in does it, and the stewards hear of it.</p>}
        </>
      ) : (
        <>
          <h2>You have no time here now</h2>
          <p>
            <Link to={`/ask?machine=${station.machineId}`}>Ask the gate</Link> for it first
            {station.walkUp
              ? '. You may book the next quarter of an hour, and tap in at once.'
              : ': this house takes no walk-ups.'}
          </p>
        </>
      )}
      <Failure error={tap.error} />
      {(station.learners?.length ?? 0) > 0 && (
        <>
          <h2>Who runs?</h2>
          <div className={css.taps}>
            {station.learners?.map((l) => (
              <button
                key={l.booking}
                type="button"
                className={css.other}
                disabled={tap.isPending}
                onClick={() => tap.mutate({ booking: l.booking })}
              >
                {l.name}
                <small>booked from {time.clock(l.start)}</small>
              </button>
            ))}
          </div>
        </>
      )}
      {next && (
        <p>
          Next: <b>{next.name}</b>, {time.moment(next.start)}
        </p>
      )}
      <p>
        <a href={`/at/${station.machineId}`}>{station.machineName}’s page</a>: switching on and off, stops, focus.{' '}
        {!station.screen && <Link to="/machines">All machines</Link>}
      </p>
      {!station.screen && hasRole(me, 'keeper') && <EnrolScreen station={station} />}
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
