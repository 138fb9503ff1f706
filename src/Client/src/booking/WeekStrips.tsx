import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import Form from 'react-bootstrap/Form'
import { answer, client } from '../kit/api'
import { BookingBar } from '../kit/BookingBar'
import { Failure, Loading } from '../kit/parts'
import { useMachines, useSession } from '../kit/session'
import css from './strips.module.css'

/** Seven days from a date, as the calendar counts them: no clock is asked. */
const week = (date: string) =>
  Array.from({ length: 7 }, (_, i) => {
    const day = new Date(`${date}T00:00:00Z`)
    day.setUTCDate(day.getUTCDate() + i)
    return day.toISOString().slice(0, 10)
  })

/** A week of one machine, day by day. */
export function WeekStrips({ date, show }: { date: string; show: (date: string) => void }) {
  const { now, time } = useSession()
  const machines = useMachines().data ?? []
  const [chosen, setMachine] = useState('')
  const machine = chosen || (machines[0]?.id ?? '')
  const days = useQuery({
    queryKey: ['week', date],
    queryFn: ({ signal }) =>
      Promise.all(
        week(date).map((d) => answer(client.GET('/api/house/day', { params: { query: { date: d } }, signal }))),
      ),
    staleTime: 600_000,
  })
  const open = (days.data ?? []).filter((d) => d.opens && d.closes)
  const [from, to] = [open[0]?.opens, open.at(-1)?.closes]
  const bookings = useQuery({
    queryKey: ['live', 'bookings', 'week', from, to],
    queryFn: async ({ signal }) =>
      (await answer(client.GET('/api/bookings', { params: { query: { from: from!, to: to! } }, signal }))).items,
    enabled: !!from && !!to,
  })
  const present = now()
  const error = days.error ?? bookings.error
  return (
    <>
      <Form.Select
        className={css.machine}
        aria-label="Machine to show"
        value={machine}
        onChange={(e) => setMachine(e.target.value)}
      >
        {machines.map((m) => (
          <option key={m.id} value={m.id}>
            {m.name}
          </option>
        ))}
      </Form.Select>
      <Failure error={error} retry={() => void bookings.refetch()} />
      {!error && (days.isPending || (!!from && bookings.isPending)) && <Loading what="the week" />}
      <div className={css.strips}>
        {days.data?.map((day, i) => {
          const [opens, closes] = [Date.parse(day.opens ?? ''), Date.parse(day.closes ?? '')]
          const x = (at: number) => (100 * (at - opens)) / (closes - opens)
          const here = (bookings.data ?? []).filter(
            (b) => b.machineId === machine && Date.parse(b.start) >= opens && Date.parse(b.start) < closes,
          )
          return (
            <div key={week(date)[i]} className={css.row}>
              <h3>
                <button type="button" className="quietlink" onClick={() => show(week(date)[i]!)}>
                  {time.day(`${week(date)[i]}T12:00:00Z`)}
                </button>
              </h3>
              {day.opens ? (
                <ol className={css.lane} aria-label={`Bookings on ${day.label}`} data-day={week(date)[i]}>
                  {here.map((b) => (
                    <li
                      key={b.id}
                      className={`${css.bk} ${b.mine ? css.mine : ''}`}
                      style={{
                        left: `${x(Date.parse(b.start))}%`,
                        width: `${x(Date.parse(b.end)) - x(Date.parse(b.start))}%`,
                      }}
                    >
                      <BookingBar parts={b.parts} />
                      <span className="visually-hidden">
                        {b.name}, {time.clock(b.start)} to {time.clock(b.end)}
                      </span>
                      <span className={css.who} aria-hidden="true">
                        {b.name}
                      </span>
                    </li>
                  ))}
                  {present >= opens && present <= closes && (
                    <li className={css.nowmark} style={{ left: `${x(present)}%` }} aria-hidden="true" />
                  )}
                </ol>
              ) : (
                <p className="quiet mb-0">closed</p>
              )}
            </div>
          )
        })}
      </div>
    </>
  )
}
