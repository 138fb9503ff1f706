import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { dayQuery, useSession } from '../kit/session'
import { Blank } from './Blank'
import { benchOf } from './askState'
import type { SentenceProps } from './blankProps'

/** A bench to clean and finish parts at, where the house has any that are booked. */
export function Bench({ state, change, errors }: SentenceProps) {
  const { house, time } = useSession()
  if (house.finishingBenches === 0 && !state.bench) return null
  const bench = state.bench ? benchOf(state.bench) : null
  return (
    <>
      {bench ? ', ' : ' '}
      <Blank
        name="Finishing bench"
        text={
          bench
            ? bench.start
              ? `and a finishing bench ${time.moment(bench.start)}, ${bench.minutes} min`
              : `then ${bench.minutes} min at a finishing bench`
            : 'without a finishing bench'
        }
        empty="without a finishing bench"
        error={errors['bench.start'] ?? errors['bench.minutes']}
      >
        {(close) => (
          <BenchForm
            state={state}
            take={(to) => {
              change({ bench: to })
              close()
            }}
          />
        )}
      </Blank>
    </>
  )
}

function BenchForm({ state, take }: { state: SentenceProps['state']; take: (bench: string | null) => void }) {
  const { house, time, now } = useSession()
  const before = state.bench ? benchOf(state.bench) : null
  const [minutes, setMinutes] = useState(String(before?.minutes ?? house.benchMinutes))
  const [apart, setApart] = useState(!!before?.start)
  const [date, setDate] = useState(time.iso(before?.start ?? state.start ?? now()))
  const [start, setStart] = useState(before?.start ?? '')
  const day = useQuery({ ...dayQuery(date), enabled: apart })
  const slots = day.data?.slots ?? []
  const chosen = slots.find((s) => s.at === start) ?? slots[0]
  const wrong = minutes !== '' && Number.isInteger(Number(minutes)) ? null : 'Give whole minutes, such as 30.'
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault()
        if (!wrong && (!apart || chosen)) take(apart ? `${minutes}@${chosen!.at}` : minutes)
      }}
    >
      <label className="form-label" htmlFor="bench-minutes">
        Minutes at the bench
      </label>
      <input
        id="bench-minutes"
        className="form-control"
        inputMode="numeric"
        autoFocus
        value={minutes}
        aria-invalid={!!wrong}
        onChange={(event) => setMinutes(event.target.value.trim())}
      />
      <p className="small quiet mt-1 mb-2">{wrong ?? 'Taking off film, cleaning, glueing: away from the machine.'}</p>
      <label className="d-block mb-2">
        <input type="checkbox" checked={apart} onChange={(event) => setApart(event.target.checked)} /> At another time,
        not right after the machine
      </label>
      {apart && (
        <div className="d-flex flex-wrap gap-2 mb-2">
          <input
            type="date"
            className="form-control w-auto"
            aria-label="Day of the bench"
            value={date}
            onChange={(event) => event.target.value && setDate(event.target.value)}
          />
          <select
            className="form-select w-auto"
            aria-label="Start at the bench"
            value={chosen?.at ?? ''}
            onChange={(event) => setStart(event.target.value)}
          >
            {slots.map((s) => (
              <option key={s.at} value={s.at}>
                {s.label}
              </option>
            ))}
          </select>
        </div>
      )}
      <div className="d-flex gap-2">
        <button type="submit" className="btn btn-primary btn-sm">
          Take a bench
        </button>
        <button type="button" className="btn btn-outline-primary btn-sm" onClick={() => take(null)}>
          No bench
        </button>
      </div>
    </form>
  )
}
