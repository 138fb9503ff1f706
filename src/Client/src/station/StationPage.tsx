import { useEffect } from 'react'
import { Link, useParams } from 'react-router'
import { Failure, Loading } from '../kit/parts'
import { useSession } from '../kit/session'
import { Beam } from './Beam'
import { Closing } from './Closing'
import { Idle } from './Idle'
import { takeOver } from '../public/keep'
import { forget, keep } from './kept'
import { Steps } from './Steps'
import { StopBar } from './StopBar'
import { Beside, LastTap, TapForm } from './Tapping'
import { useScanned } from './scanned'
import { useDoing, useStation, useTick, type Session, type Station } from './useStation'
import css from './station.module.css'

/** At one machine, from tapping in to tapping out: on a tablet beside it, or on the person's own phone. */
export function StationPage() {
  const { machine = '' } = useParams()
  const station = useStation(machine)
  const session = useSession()
  const { data, dataUpdatedAt } = station
  useEffect(() => {
    if (data) keep(session, data, dataUpdatedAt)
  }, [session, data, dataUpdatedAt])
  const idle = data && !data.session
  useEffect(() => {
    if (idle) takeOver()
  }, [idle])
  useEffect(() => () => forget(machine), [machine])
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
      <LastTap station={s} />
      {s.service && (
        <ul className={css.lost} aria-label="The service key is out">
          {s.service.map((line) => (
            <li key={line}>{line}</li>
          ))}
        </ul>
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

function Open({ station, session }: { station: Station; session: Session }) {
  const doing = useDoing(station.machineId, session)
  const { step } = session
  useScanned(session, doing)
  const props = { station, session, doing }
  const stops = session.controlled && step === 'running'
  const alarm = `The building’s alarm: ${station.machineName}’s red button, lid shut, go; do not wait for the air.`
  const safety = step === 'running' ? `${station.safety} ${alarm}` : station.safety
  return (
    <>
      {step === 'running' || step === 'wait' ? (
        <Beam {...props} />
      ) : step === 'unload' || step === 'next' || step === 'close' ? (
        <Closing {...props} />
      ) : (
        <Steps {...props} />
      )}
      {stops && <p className={`${css.only} ${css.inflow}`}>{safety}</p>}
      <footer className={css.foot} data-stop={stops || undefined}>
        {stops && <StopBar station={station} doing={doing} />}
        <p className={css.only}>{safety}</p>
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
        {station.screen ? (
          <details>
            <summary>Somebody else taps</summary>
            <TapForm station={station} />
          </details>
        ) : (
          (!session.mine || station.takesOver) && <Beside station={station} />
        )}
        {step !== 'running' && (
          <>
            <a href={`/at/${station.machineId}`}>{station.machineName}’s page</a>
            {!station.screen && <Link to="/watch">Watch</Link>}
          </>
        )}
      </footer>
    </>
  )
}
