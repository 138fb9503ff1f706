import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link } from 'react-router'
import { answer, client, type Schemas } from '../kit/api'
import { Empty, Failure, fieldErrors, Loading, PageHead, RunOn, TextField } from '../kit/parts'
import { useMachines, useSession } from '../kit/session'
import { Week } from './Week'
import css from './reports.module.css'

type Use = Schemas['UseResponse']
type Asked = { from?: string; to?: string }

/** How machine time is used. Nobody is named. */
export function UsePage() {
  const [asked, setAsked] = useState<Asked>({})
  const use = useQuery({
    queryKey: ['live', 'use', asked],
    queryFn: ({ signal }) => answer(client.GET('/api/use', { params: { query: asked }, signal })),
    placeholderData: (before) => before,
  })
  const { time } = useSession()
  const day = (date: string) => time.day(`${date}T12:00:00Z`)
  const put = (field: keyof Asked) => (value: string) => setAsked({ ...asked, [field]: value || undefined })
  const errors = fieldErrors(use.error)
  const query = use.data ? `?from=${use.data.from}&to=${use.data.to}` : ''
  return (
    <>
      <PageHead title="How the machines are used" sub={use.data && `${day(use.data.from)} to ${day(use.data.to)}`}>
        <Link to="/bookings">Bookings</Link>
        <a href={`/api/use/file${query}`}>As a table (CSV)</a>
      </PageHead>
      <div className={css.asked}>
        <TextField
          id="use-from"
          label="From"
          type="date"
          value={asked.from ?? ''}
          put={put('from')}
          error={errors.from}
        />
        <TextField id="use-to" label="To" type="date" value={asked.to ?? ''} put={put('to')} error={errors.to} />
        <p className="small quiet">Left empty: the last eight weeks.</p>
      </div>
      {use.isPending && <Loading what="the figures" />}
      {Object.keys(errors).length === 0 && <Failure error={use.error} retry={() => void use.refetch()} />}
      {use.data &&
        (use.data.figures.bookings + use.data.figures.noShows === 0 ? (
          <Empty title="Nothing was booked in these days">Choose other days.</Empty>
        ) : (
          <Figures use={use.data} />
        ))}
    </>
  )
}

function Figures({ use }: { use: Use }) {
  const f = use.figures
  return (
    <>
      <section className="mt-3">
        <RunOn title="By hour of the week" after={`${f.bookings} bookings`} />
        <Week hours={f.hours} />
      </section>
      <div className={css.columns}>
        <section>
          <RunOn title="By machine" />
          <Machines machines={f.machines} />
        </section>
        <section>
          <RunOn title="How well the times fit" />
          <Fit use={use} />
        </section>
        <section>
          <RunOn title="How even it is" after={`${f.fairness.people} people`} />
          <Even fairness={f.fairness} />
        </section>
        {use.refused && (
          <section>
            <RunOn title="Refused, by reason" after="of the last 90 days at most" />
            <Refused rows={use.refused} />
          </section>
        )}
      </div>
    </>
  )
}

const percent = (share: number) => `${Math.round(100 * share)} %`
const hours = (h: number) => `${h.toFixed(h < 10 ? 1 : 0)} h`

function Machines({ machines }: { machines: Use['figures']['machines'] }) {
  const names = useMachines().data ?? []
  return (
    <table className={css.bars}>
      <caption className="visually-hidden">Booked hours of those that were open</caption>
      <tbody>
        {machines.map((m) => {
          const share = m.openHours > 0 ? Math.min(1, m.bookedHours / m.openHours) : 0
          return (
            <tr key={m.machineId}>
              <th scope="row">{names.find((n) => n.id === m.machineId)?.name ?? m.machineId}</th>
              <td className={css.bar}>
                <i style={{ width: `${100 * share}%` }} />
              </td>
              <td>
                <b>{percent(share)}</b>{' '}
                <span className="quiet">{`${hours(m.bookedHours)} of ${hours(m.openHours)}`}</span>
                {m.noShows > 0 && <span className="quiet">, {m.noShows} nobody came</span>}
                {m.cancelled > 0 && <span className="quiet">, {m.cancelled} given back</span>}
              </td>
            </tr>
          )
        })}
      </tbody>
    </table>
  )
}

function Fit({ use }: { use: Use }) {
  const f = use.figures
  return (
    <dl className={css.figures}>
      <Ratio
        name="Booked for each minute at the machine"
        spread={f.bookedToNeeded}
        none="No screen saw one come and go."
      />
      <Ratio name="Planned for each minute of a run" spread={use.estimateToActual} none="No run was logged." />
      <Time name="Asked before the start" spread={f.waitHours} />
      <Time name="On the waiting list, to the start" spread={use.waitingHours} />
      <dt>Nobody came</dt>
      <dd>
        <b>{f.noShows}</b> <span className="quiet">of {f.bookings + f.noShows} bookings</span>
      </dd>
    </dl>
  )
}

type Spread = Schemas['Spread'] | null | undefined

function Ratio({ name, spread, none }: { name: string; spread: Spread; none: string }) {
  return (
    <>
      <dt>{name}</dt>
      <dd>
        {spread ? (
          <>
            <b>{spread.median.toFixed(2)} min</b>{' '}
            <span className="quiet">
              half lie between {spread.low.toFixed(2)} and {spread.high.toFixed(2)}, of {spread.count}
            </span>
          </>
        ) : (
          <span className="quiet">{none}</span>
        )}
      </dd>
    </>
  )
}

function Time({ name, spread }: { name: string; spread: Spread }) {
  if (!spread) return null
  const long = (h: number) => (h < 48 ? hours(h) : `${(h / 24).toFixed(1)} days`)
  return (
    <>
      <dt>{name}</dt>
      <dd>
        <b>{long(spread.median)}</b>{' '}
        <span className="quiet">
          half lie between {long(spread.low)} and {long(spread.high)}
        </span>
      </dd>
    </>
  )
}

function Even({ fairness }: { fairness: Use['figures']['fairness'] }) {
  if (fairness.gini == null || fairness.topShare == null) return <p className="quiet">Nobody had any.</p>
  return (
    <>
      <p className={css.even}>
        <b>{fairness.gini.toFixed(2)}</b>
        <span className={css.scale} aria-hidden="true">
          <i style={{ left: `${100 * fairness.gini}%` }} />
        </span>
        <span className="small quiet">
          0 is the same for all who booked, 1 is everything for one (Gini). {hours(fairness.hours)} in all.
        </span>
      </p>
      <p>
        The ten people with most hold <b>{percent(fairness.topShare)}</b> of the hours. Nobody is ranked here.
      </p>
    </>
  )
}

function Refused({ rows }: { rows: NonNullable<Use['refused']> }) {
  const most = Math.max(1, ...rows.map((r) => r.count))
  if (rows.length === 0) return <p className="quiet">No booking was refused in these days.</p>
  return (
    <table className={css.bars}>
      <tbody>
        {rows.map((r) => (
          <tr key={r.code}>
            <th scope="row" className={css.why}>
              {r.means}
            </th>
            <td className={css.bar}>
              <i style={{ width: `${(100 * r.count) / most}%` }} />
            </td>
            <td>
              <b>{r.count}</b> <span className="quiet">of {r.people === 1 ? '1 person' : `${r.people} people`}</span>
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}
