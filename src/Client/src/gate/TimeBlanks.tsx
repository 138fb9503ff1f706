import { useQuery } from '@tanstack/react-query'
import { dayQuery, useSession } from '../kit/session'
import { Blank, Pick, Write } from './Blank'
import { notANumber, type SentenceProps } from './blankProps'

export function Time({ state, change, errors, shut }: SentenceProps) {
  const { time, now } = useSession()
  const date = state.date ?? time.iso(state.start ?? now())
  const day = useQuery(dayQuery(date))
  const bad = shut.has('time')
  return (
    <>
      <Blank name="Day" text={state.start ? time.day(state.start) : null} empty="a day" bad={bad}>
        {(close) => (
          <DayPick date={date} change={change} close={close} clock={state.start ? time.clock(state.start) : null} />
        )}
      </Blank>{' '}
      at{' '}
      <Blank
        name="Start"
        text={state.start ? time.clock(state.start) : null}
        empty="a time"
        bad={bad}
        error={errors.start}
      >
        {(close) => (
          <Pick
            label={`Find a time on ${day.data?.label ?? date}`}
            value={state.start}
            options={(day.data?.slots ?? []).map((s) => ({
              value: s.at,
              label: s.label,
              note: Date.parse(s.at) < now() ? 'past' : undefined,
            }))}
            onPick={(start) => {
              change({ start })
              close()
            }}
          />
        )}
      </Blank>{' '}
      for{' '}
      <Blank
        name="Minutes"
        text={state.minutes ? `${state.minutes} min` : 'as long as it needs'}
        empty=""
        bad={bad && !!state.minutes}
        error={errors.minutes}
      >
        {(close) => (
          <Write
            label="Whole minutes at the machine"
            value={state.minutes ?? ''}
            refuse={notANumber}
            help="Checks, runs, air clearing and clean-down together. Leave it empty to take what the job needs."
            onWrite={(text) => {
              change({ minutes: text || null })
              close()
            }}
          />
        )}
      </Blank>
    </>
  )
}

/** A day, kept with the wall-clock time chosen before, where that day has it. */
function DayPick({
  date,
  change,
  close,
  clock,
}: {
  date: string
  change: SentenceProps['change']
  close: () => void
  clock: string | null
}) {
  const day = useQuery(dayQuery(date))
  const move = (to: string) => change({ date: to })
  const take = () => {
    const slot = day.data?.slots.find((s) => s.label.startsWith(clock ?? '')) ?? day.data?.slots[0]
    if (slot) change({ start: slot.at })
    close()
  }
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault()
        take()
      }}
    >
      <label className="form-label" htmlFor="ask-day">
        Day
      </label>
      <input
        id="ask-day"
        type="date"
        className="form-control"
        autoFocus
        value={date}
        onChange={(event) => event.target.value && move(event.target.value)}
      />
      <p className="small quiet mt-1 mb-2">
        {day.data ? (day.data.slots.length > 0 ? day.data.label : `${day.data.label}: closed`) : ' '}{' '}
        {day.data?.clockChange}
      </p>
      <div className="d-flex gap-2">
        <button
          type="button"
          className="btn btn-outline-primary btn-sm"
          onClick={() => day.data && move(day.data.previous)}
        >
          Day before
        </button>
        <button
          type="button"
          className="btn btn-outline-primary btn-sm"
          onClick={() => day.data && move(day.data.next)}
        >
          Day after
        </button>
        <button type="submit" className="btn btn-primary btn-sm" disabled={!day.data?.slots.length}>
          Fill in
        </button>
      </div>
    </form>
  )
}
