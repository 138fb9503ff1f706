import { Failure } from '../kit/parts'
import { useSession } from '../kit/session'
import { OwnStop } from './OwnStop'
import { Readings } from './Readings'
import { Main, type StepProps } from './Steps'
import { minutesLeft, useAwake, useTick, useTone } from './useStation'
import { Waiting } from './Waiting'
import css from './station.module.css'

/** The beam is on, or has just gone off and the lid stays shut. */
export function Beam(props: StepProps) {
  useAwake(true)
  return props.session.step === 'running' ? <Running {...props} /> : <Waiting {...props} />
}

function Running({ station, session, doing }: StepProps) {
  const { time } = useSession()
  const at = useTick()
  const run = session.run
  const left = run ? Date.parse(run.pausedUntil ?? run.deadline) - at : 0
  const lapsed = run !== null && left <= 0
  const warn = run !== null && !run.pausedUntil && left <= run.warnSeconds * 1000
  useTone(warn)
  if (!run) return null
  const gone = at - Date.parse(run.start)
  const whole = Date.parse(run.deadline) - Date.parse(run.start)
  const part = Math.min(1, Math.max(0, left / Math.max(1, Math.min(whole, 600_000))))
  return (
    <div className={css.three}>
      <section className={css.one}>
        <h2>{run.extra ? 'Extra pass: only what is not through' : session.sheet.material}</h2>
        <p className={css.count}>
          {minutesLeft(gone)}{' '}
          <span>
            of about {minutesLeft((run.lowSeconds + run.highSeconds) * 500)}
            {run.lowSeconds < run.highSeconds &&
              ` (${minutesLeft(run.lowSeconds * 1000)} to ${minutesLeft(run.highSeconds * 1000)})`}
            , ends about {time.clock(Date.parse(run.start) + (run.lowSeconds + run.highSeconds) * 500)}
          </span>
        </p>
        {session.set && (
          <p className={css.large}>
            {session.set.powerPercent} % · {session.set.speedMmPerS} mm/s · {session.set.passes}{' '}
            {session.set.passes === 1 ? 'pass' : 'passes'}
          </p>
        )}
        {session.controlled ? (
          <p className={css.large} role="status">
            {run.pausedUntil
              ? 'Paused: the beam is off, the lid stays shut.'
              : run.on
                ? 'The beam is let on.'
                : lapsed
                  ? 'The beam is off. Fan and cooling stay on.'
                  : 'Waiting for the controller to let the beam on.'}
          </p>
        ) : (
          <p>If this phone locks, nothing will warn you: set a kitchen timer.</p>
        )}
        <div className={css.stack}>
          {session.mayPause && (
            <button
              type="button"
              className={css.other}
              disabled={doing.isPending}
              onClick={() => doing.mutate({ act: 'pause' })}
            >
              Pause
              <small>first on {station.machineName}’s own panel, then here</small>
            </button>
          )}
          {session.controlled && (
            <Main doing={doing} act={{ act: 'stop', why: 'ended' }}>
              It came to its end
              <small>takes the beam’s permit back</small>
            </Main>
          )}
        </div>
      </section>
      <section className={css.ring} data-warn={warn || undefined}>
        <svg
          viewBox="0 0 340 340"
          role="img"
          aria-label={`${minutesLeft(left)} left to ${run.pausedUntil ? 'go on' : 'press'}`}
        >
          <circle cx="170" cy="170" r="128" className={css.track} />
          <circle
            cx="170"
            cy="170"
            r="128"
            className={css.rope}
            strokeDasharray={`${part * 2 * Math.PI * 128} 900`}
            transform="rotate(-90 170 170)"
          />
        </svg>
        <p className={css.left}>
          <b>{minutesLeft(left)}</b>
          <span>{run.pausedUntil ? 'to go on' : 'left'}</span>
        </p>
        {run.pausedUntil ? (
          <>
            <p className={css.held} role="status">
              <b>Paused.</b>{' '}
              {at <= Date.parse(run.pausedUntil)
                ? `It may go on until ${time.clock(run.pausedUntil)}. Look through the window first.`
                : 'For too long: press STOP, and wait for the air.'}
            </p>
            <Main doing={doing} act={{ act: 'resume' }} disabled={at > Date.parse(run.pausedUntil)}>
              I looked: go on
              <small>then on {station.machineName}’s panel</small>
            </Main>
          </>
        ) : lapsed ? (
          <>
            <p role="alert" className={css.held}>
              <b>Nobody pressed.</b>{' '}
              {session.controlled
                ? 'The beam went off. Look through the window.'
                : `Look now. If you cannot: press ${station.machineName}’s own stop.`}
            </p>
            <Main doing={doing} act={{ act: 'look' }}>
              I looked: no flame, no glow
            </Main>
          </>
        ) : (
          <Main doing={doing} act={{ act: 'press' }}>
            I’m here, watching
          </Main>
        )}
        <p className={css.quiet} hidden={!!run.pausedUntil}>
          {session.controlled && 'If nobody presses, the beam goes off; fan and cooling stay on. '}A press says you are
          here now. It is not leave to go.
        </p>
        <Failure error={doing.error} />
      </section>
      {session.controlled ? <Readings station={station} /> : <OwnStop {...{ station, session, doing }} />}
    </div>
  )
}
