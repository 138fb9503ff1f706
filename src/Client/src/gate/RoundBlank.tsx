import { useId, useState } from 'react'
import { Blank } from './Blank'
import { roundText, type RoundState } from './askState'
import type { SentenceProps } from './blankProps'

/** What turns on the rotary: the gate holds the drawing's page against it. */
export function RoundBlank({ state, change, errors, nth = '' }: SentenceProps) {
  if (state.fixture !== 'rotary') return null
  return (
    <>
      {', round '}
      <Blank
        name={`Round${nth}`}
        text={state.round ? roundText(state.round) : null}
        empty="something not measured yet"
        error={errors['round.diameter'] ?? errors['round.diameter2']}
      >
        {(close) => (
          <Ends
            round={state.round}
            onWrite={(round) => {
              change({ round })
              close()
            }}
          />
        )}
      </Blank>
    </>
  )
}

function Ends({ round, onWrite }: { round: RoundState | null; onWrite: (to: RoundState | null) => void }) {
  const [one, setOne] = useState(round?.diameter ?? '')
  const [other, setOther] = useState(round?.diameter2 ?? '')
  const [handle, setHandle] = useState(round?.handleOrBall ?? false)
  const id = useId()
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault()
        onWrite(one.trim() ? { diameter: one.trim(), diameter2: other.trim() || null, handleOrBall: handle } : null)
      }}
    >
      <label className="form-label" htmlFor={`${id}-one`}>
        Across, at one end
      </label>
      <input
        id={`${id}-one`}
        className="form-control"
        autoFocus
        placeholder="73 mm"
        value={one}
        onChange={(event) => setOne(event.target.value)}
      />
      <label className="form-label mt-2" htmlFor={`${id}-other`}>
        Across, at the other end
      </label>
      <input
        id={`${id}-other`}
        className="form-control"
        aria-describedby={`${id}-help`}
        value={other}
        onChange={(event) => setOther(event.target.value)}
      />
      <p className="form-text" id={`${id}-help`}>
        Empty: as wide as the first. Over 2 % apart it wraps crooked on a level rotary.
      </p>
      <div className="form-check">
        <input
          id={`${id}-handle`}
          type="checkbox"
          className="form-check-input"
          checked={handle}
          onChange={(event) => setHandle(event.target.checked)}
        />
        <label className="form-check-label" htmlFor={`${id}-handle`}>
          It has a handle or a spout, or it is a ball
        </label>
      </div>
      <button type="submit" className="btn btn-primary mt-2">
        Take it
      </button>
    </form>
  )
}
