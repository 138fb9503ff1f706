import { useState } from 'react'
import { Failure } from '../kit/parts'
import { useSession } from '../kit/session'
import { Main, type StepProps } from './Steps'
import css from './station.module.css'

const results = [
  ['through', 'Through'],
  ['notThrough', 'Not through'],
  ['charred', 'Charred'],
  ['flame', 'Flame or glow'],
  ['smell', 'Bad smell'],
] as const

/** After the lid: how it came out, what comes next, and leaving the machine as the next person wants it. */
export function Closing(props: StepProps) {
  const { session, doing } = props
  return (
    <section className={css.one}>
      {session.held && (
        <p className={css.held} role="alert">
          <b>Held.</b> {session.held}. A steward looks before anything starts.
        </p>
      )}
      {session.step === 'unload' ? (
        <Unload {...props} />
      ) : session.step === 'next' ? (
        <Next {...props} />
      ) : (
        <Close {...props} />
      )}
      <Failure error={doing.error} />
    </section>
  )
}

function Unload({ doing }: StepProps) {
  const [moved, setMoved] = useState(false)
  return (
    <>
      <h2>Tap the part before you move the sheet</h2>
      <label className={css.tick}>
        <input type="checkbox" checked={moved} onChange={(event) => setMoved(event.target.checked)} />
        The sheet has moved
      </label>
      <div className={css.taps}>
        {results.map(([result, words]) => (
          <button
            key={result}
            type="button"
            className={css.other}
            disabled={doing.isPending}
            onClick={() => doing.mutate({ act: 'outcome', result, moved })}
          >
            {words}
          </button>
        ))}
      </div>
    </>
  )
}

function Next({ session, doing }: StepProps) {
  return (
    <>
      <h2>What comes next?</h2>
      <div className={css.taps}>
        {session.mayExtra && (
          <Main doing={doing} act={{ act: 'next', what: 'extra' }}>
            One extra pass
            <small>only the lines not through, at most half the energy</small>
          </Main>
        )}
        <Main doing={doing} act={{ act: 'next', what: 'piece' }}>
          Another piece
          <small>same sheet, still clamped</small>
        </Main>
        <Main doing={doing} act={{ act: 'next', what: 'sheet' }}>
          Another sheet
          <small>of the same job</small>
        </Main>
        {session.item + 1 < session.items && (
          <Main doing={doing} act={{ act: 'next', what: 'job' }}>
            Next on the booking
            <small>
              {session.item + 2} of {session.items}
            </small>
          </Main>
        )}
        <Main doing={doing} act={{ act: 'next', what: 'finish' }}>
          Finish
          <small>clean down, tap out</small>
        </Main>
      </div>
    </>
  )
}

function Close({ station, session, doing }: StepProps) {
  const { time } = useSession()
  const [wrong, setWrong] = useState('')
  const open = session.closing.find((c) => !c.done)
  return (
    <>
      {open ? (
        <>
          <h2>{open.title}</h2>
          <ul className={css.large}>
            {open.lines.map((line) => (
              <li key={line}>{line}</li>
            ))}
          </ul>
          {open.id === 'head' && session.fixture && (
            <label className="d-block mb-3">
              Is anything wrong with the {session.fixture}? Say what; leave it empty when it is in order.
              <input
                className="form-control"
                value={wrong}
                onChange={(e) => setWrong(e.target.value)}
                maxLength={400}
              />
            </label>
          )}
          <Main doing={doing} act={{ act: 'close', item: open.id, note: wrong || undefined }}>
            Done
          </Main>
        </>
      ) : (
        <>
          <h2>{station.machineName} is as you would want to find it</h2>
          <Main doing={doing} act={{ act: 'tapOut' }}>
            Tap out
          </Main>
        </>
      )}
      {station.next && (
        <p>
          Next: <b>{station.next.name}</b>, {time.moment(station.next.start)}
        </p>
      )}
    </>
  )
}
