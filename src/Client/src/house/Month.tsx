import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { answer, client, type Schemas } from '../kit/api'
import { Failure, Loading } from '../kit/parts'
import monthCss from './month.module.css'

const week = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun']
const words = { closure: 'Closed', class: 'Class', duty: 'On duty' } as const

/** One month with what stands in it; on a phone the days that hold something, one under the other. */
export function Month() {
  const [month, setMonth] = useState<string>()
  const shown = useQuery({
    queryKey: ['live', 'house', 'month', month ?? ''],
    queryFn: ({ signal }) => answer(client.GET('/api/calendar/month', { params: { query: { month } }, signal })),
    placeholderData: keepPreviousData,
  })
  if (shown.isPending) return <Loading what="the month" />
  if (!shown.data) return <Failure error={shown.error} retry={() => void shown.refetch()} />
  const { label, previous, next, before, days } = shown.data
  const cells: (Schemas['MonthDay'] | null)[] = [...Array.from({ length: before }, () => null), ...days]
  while (cells.length % 7 > 0) cells.push(null)
  const today = days.findIndex((d) => d.today)
  const past = (day: Schemas['MonthDay']) => today >= 0 && day.number <= today
  const weeks = Array.from({ length: cells.length / 7 }, (_, i) => cells.slice(i * 7, i * 7 + 7))
  return (
    <section className="sheetgroup">
      <div className={monthCss.monthhead}>
        <h2>{label}</h2>
        <button type="button" className="quietlink" onClick={() => setMonth(previous)}>
          Month before
        </button>
        <button type="button" className="quietlink" onClick={() => setMonth(next)}>
          Next month
        </button>
      </div>
      <table className={monthCss.month}>
        <caption className="visually-hidden">{label}: closures, classes and stewards on duty</caption>
        <thead>
          <tr>
            {week.map((day) => (
              <th key={day} scope="col">
                {day}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {weeks.map((row, i) => (
            <tr key={i}>
              {row.map((day, j) => (
                <td key={j} className={day ? (day.today ? monthCss.today : past(day) ? 'past' : '') : monthCss.other}>
                  {day && <Day day={day} weekday={week[j]!} />}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  )
}

function Day({ day, weekday }: { day: Schemas['MonthDay']; weekday: string }) {
  return (
    <>
      <div className={monthCss.daynumber}>
        <span className={monthCss.weekday}>{weekday} </span>
        {day.number}
        {day.today && <span className="visually-hidden"> (today)</span>}
        <span className="hours">{day.hours ?? 'closed'}</span>
      </div>
      {day.lines.map((line, i) => (
        <div key={i} className={`${monthCss.line} ${line.kind}`}>
          <b>{line.from && (line.until ? `${line.from}–${line.until} ` : `from ${line.from} `)}</b>
          <span className="visually-hidden">{words[line.kind]}: </span>
          {line.what}
        </div>
      ))}
    </>
  )
}
