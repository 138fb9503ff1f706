import { useState } from 'react'
import { Main, type StepProps } from './Steps'
import { Whys } from './Whys'
import css from './station.module.css'

/** Without a controller: the machine’s own stop, and what somebody says of it here. */
export function OwnStop({ station, doing }: StepProps) {
  const [stopping, setStopping] = useState(false)
  const stops = station.stops.length > 0 ? station.stops : [{ what: 'own stop', where: 'on the machine' }]
  return (
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
          <Whys doing={doing} />
          <p>
            Fire or smoke? <a href={`/emergency/${station.machineId}`}>The emergency card first.</a>
          </p>
          <button type="button" className="quietlink" onClick={() => setStopping(false)}>
            Back
          </button>
        </>
      )}
    </section>
  )
}
