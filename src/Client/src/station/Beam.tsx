import { useState } from 'react'
import { Failure } from '../kit/parts'
import { useSession } from '../kit/session'
import { Main, type StepProps } from './Steps'
import { minutesLeft, useAwake, useTick, useTone } from './useStation'
import css from './station.module.css'

/** The beam is on, or has just gone off and the lid stays shut. */
export function Beam(props: StepProps) {
  useAwake(true)
  return props.session.step === 'running' ? <Running {...props} /> : <Waiting {...props} />
}

const whys = [
  ['sheetMoved', 'Sheet moved'],
  ['wrongSettings', 'Wrong settings'],
  ['byMistake', 'By mistake'],
  ['flame', 'Flame or glow'],
  ['smell', 'Choking smell'],
  ['misbehaves', 'It misbehaves'],
] as const

function Running({ station, session, doing }: StepProps) {
  const { time } = useSession()
  const at = useTick()
  const [stopping, setStopping] = useState(false)
  const run = session.run
  const left = run ? Date.parse(run.deadline) - at : 0
  const lapsed = run !== null && left <= 0
  const warn = run !== null && left <= run.warnSeconds * 1000
  useTone(warn)
  if (!run) return null
  const gone = at - Date.parse(run.start)
  const whole = Date.parse(run.deadline) - Date.parse(run.start)
  const part = Math.min(1, Math.max(0, left / Math.max(1, Math.min(whole, 600_000))))
  const stops = station.stops.length > 0 ? station.stops : [{ what: 'own stop', where: 'on the machine' }]
  return (
    <div className={css.three}>
      <section className={css.one}>
        <h2>{run.extra ? 'Extra pass: only what is not through' : session.sheet.material}</h2>
        <p className={css.count}>
          {minutesLeft(gone)}{' '}
          <span>
            of about {minutesLeft((run.lowSeconds + run.highSeconds) * 500)} ({minutesLeft(run.lowSeconds * 1000)} to{' '}
            {minutesLeft(run.highSeconds * 1000)}), ends about{' '}
            {time.clock(Date.parse(run.start) + (run.lowSeconds + run.highSeconds) * 500)}
          </span>
        </p>
        {session.set && (
          <p className={css.large}>
            {session.set.powerPercent} % · {session.set.speedMmPerS} mm/s · {session.set.passes}{' '}
            {session.set.passes === 1 ? 'pass' : 'passes'}
          </p>
        )}
        <p>If this phone locks, nothing will warn you: set a kitchen timer.</p>
      </section>
      <section className={css.ring} data-warn={warn || undefined}>
        <svg viewBox="0 0 340 340" role="img" aria-label={`${minutesLeft(left)} left to press`}>
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
          <span>left</span>
        </p>
        {lapsed ? (
          <>
            <p role="alert" className={css.held}>
              <b>Nobody pressed.</b> Look now. If you cannot: press {station.machineName}’s own stop.
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
        <p className={css.quiet}>A press says you are here now. It is not leave to go.</p>
        <Failure error={doing.error} />
      </section>
      <section className={css.stop}>
        {!stopping ? (
          <>
            <h2>To stop, press {station.machineName}’s own stop</h2>
            {/* A picture of a knob on the machine: nothing on this screen stops it. */}
            <svg className={css.button} viewBox="0 0 92 92" aria-hidden="true">
              <rect x="6" y="56" width="80" height="30" fill="var(--brass-lt)" stroke="var(--ink)" strokeWidth="3" />
              <path d="M34 56V40h24v16" fill="var(--well)" stroke="var(--ink)" strokeWidth="3" />
              <path d="M14 40q0-26 32-26t32 26z" fill="var(--signal)" stroke="var(--ink)" strokeWidth="3" />
            </svg>
            {stops.map((stop) => (
              <p key={stop.what} className={css.large}>
                {stop.what}, {stop.where}
              </p>
            ))}
            <button type="button" className={`${css.other} ${css.stopped}`} onClick={() => setStopping(true)}>
              I have pressed it
            </button>
            <Main doing={doing} act={{ act: 'stop', why: 'ended' }}>
              It came to its end
              <small>the beam is off</small>
            </Main>
          </>
        ) : (
          <>
            <h2>Why?</h2>
            <div className={css.taps}>
              {whys.map(([why, words]) => (
                <button
                  key={why}
                  type="button"
                  className={css.other}
                  disabled={doing.isPending}
                  onClick={() => doing.mutate({ act: 'stop', why })}
                >
                  {words}
                </button>
              ))}
            </div>
            <p>
              Fire or smoke? <a href={`/emergency/${station.machineId}`}>The emergency card first.</a>
            </p>
            <button type="button" className="quietlink" onClick={() => setStopping(false)}>
              Back
            </button>
          </>
        )}
      </section>
    </div>
  )
}

function Waiting({ station, session, doing }: StepProps) {
  const at = useTick()
  const lid = session.lid
  if (!lid) return null
  const left = lid.until ? Date.parse(lid.until) - at : null
  return (
    <section className={css.one}>
      <h2>The lid stays shut</h2>
      {session.held && (
        <p className={css.held} role="alert">
          <b>Held.</b> {session.held}. <a href={`/emergency/${station.machineId}`}>Emergency card</a>
        </p>
      )}
      {left === null ? (
        <p className={css.large}>Everybody out, door shut. A steward says when.</p>
      ) : (
        <p className={css.count} role="timer">
          {minutesLeft(left)} <span>at least, and no smoke to be seen</span>
        </p>
      )}
      <p>{lid.why}</p>
      {left !== null && (
        <div className={css.pair}>
          <Main doing={doing} act={{ act: 'lidOpened' }} disabled={left > 0}>
            No smoke: I open the lid
          </Main>
          <button
            type="button"
            className={css.other}
            disabled={doing.isPending || left > 0}
            onClick={() => doing.mutate({ act: 'stillSmoke' })}
          >
            Still smoke: 30 s more
          </button>
        </div>
      )}
      <Failure error={doing.error} />
    </section>
  )
}
