import { Failure } from '../kit/parts'
import { useSession } from '../kit/session'
import { Main, type StepProps } from './Steps'
import { minutesLeft, useTick } from './useStation'
import { Whys } from './Whys'
import css from './station.module.css'

/** The beam has gone off: the lid stays shut until the air is clear. */
export function Waiting({ station, session, doing }: StepProps) {
  const { time } = useSession()
  const at = useTick()
  const lid = session.lid
  if (!lid) return null
  const left = lid.until ? Date.parse(lid.until) - at : null
  return (
    <section className={css.one}>
      <h2>{lid.asksWhy ? 'Why was it stopped?' : 'The lid stays shut'}</h2>
      {session.controlled && (
        <p className={css.large} role="status">
          {lid.seenOff ? (
            <>
              <b>Beam off, seen {time.seconds(lid.seenOff)}.</b> The head may go on moving.
            </>
          ) : lid.beamUnknown ? (
            <b className={css.signal}>
              This screen cannot stop {station.machineName}. Press {station.machineName}’s own red button.
            </b>
          ) : (
            'The machine’s own stop was pressed.'
          )}
        </p>
      )}
      {lid.beamUnknown && (
        <Main doing={doing} act={{ act: 'ownStop' }}>
          I have pressed it
        </Main>
      )}
      {lid.asksWhy && <Whys doing={doing} />}
      {lid.open && (
        <p role="alert" className={css.held}>
          <b>Shut the lid.</b> The wait begins when it is shut.
        </p>
      )}
      {session.held && (
        <p className={css.held} role="alert">
          <b>Held.</b> {session.held}. <a href={`/emergency/${station.machineId}`}>Emergency card</a>
        </p>
      )}
      {left === null ? (
        <p className={css.large}>Everybody out, door shut. A steward says when.</p>
      ) : lid.open || lid.beamUnknown ? null : (
        <p className={css.count} role="timer">
          {minutesLeft(left)} <span>at least, and no smoke to be seen</span>
        </p>
      )}
      <p>{lid.why}</p>
      {left !== null && !lid.asksWhy && !lid.open && !lid.beamUnknown && (
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
