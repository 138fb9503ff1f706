import { useEffect, useState } from 'react'
import { Link } from 'react-router'
import type { Schemas } from '../kit/api'
import { useSession } from '../kit/session'

const steps: Record<NonNullable<Schemas['WatchStation']['step']>, string> = {
  checks: 'looks round',
  sheet: 'at the sheet',
  focus: 'focuses',
  settings: 'sets the machine',
  frame: 'frames the job',
  air: 'looks at the air',
  confirm: 'about to start',
  running: 'runs',
  wait: 'waits for the air to clear',
  unload: 'unloads',
  next: 'between two runs',
  close: 'cleans down',
}

/** Each second, while something counts down. */
function useSecond(on: boolean) {
  const { now } = useSession()
  const [at, setAt] = useState(now)
  useEffect(() => {
    if (!on) return
    const timer = setInterval(() => setAt(now()), 1000)
    return () => clearInterval(timer)
  }, [now, on])
  return on ? at : now()
}

const left = (until: string, at: number) => {
  const s = Math.max(0, Math.ceil((Date.parse(until) - at) / 1000))
  return `${Math.floor(s / 60)}:${String(s % 60).padStart(2, '0')}`
}

/** Who is at the machine, how far, what is left to press, and what is read. */
export function AtMachine({ id, station }: { id: string; station: Schemas['WatchStation'] }) {
  const { time } = useSession()
  const { pressBy, endsAbout, lidUntil } = station
  const at = useSecond(Boolean(pressBy ?? lidUntil))
  return (
    <span data-station={station.step ?? 'nobody'}>
      {station.step && (
        <>
          <Link to={`/station/${id}`}>
            <b>{station.name}</b>
          </Link>{' '}
          {steps[station.step]}
          {pressBy && (Date.parse(pressBy) > at ? `, ${left(pressBy, at)} to press` : ', nobody pressed in time')}
          {endsAbout && `, ends about ${time.clock(endsAbout)}`}
          {lidUntil && `, lid shut ${left(lidUntil, at)}`}.{' '}
          {station.held && (
            <>
              <b>Held: {station.held}.</b>{' '}
            </>
          )}
        </>
      )}
      {station.leftOpen.length > 0 && <>Left undone: {station.leftOpen.join(', ')}. </>}
      {station.silent && <b>Its controller is silent. </b>}
      {station.warnings.length > 0 ? (
        <b>{station.warnings.join(' ')}</b>
      ) : (
        station.step && station.read && <span className="quiet">{station.read}</span>
      )}
    </span>
  )
}
