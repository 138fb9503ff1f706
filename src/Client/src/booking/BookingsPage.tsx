import { useAction } from '../kit/Act'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link, useNavigate } from 'react-router'
import { answer, client, type Schemas } from '../kit/api'
import { BookingBar } from '../kit/BookingBar'
import { Empty, Failure, Loading, PageHead, RunOn } from '../kit/parts'
import { Standing } from '../kit/Standing'
import { hasRole, useMachines, useSession } from '../kit/session'
import { lengthIn, useUnit } from '../kit/units'
import { Change } from './Change'
import { Arrive, Runs } from './Runs'
import { Strips } from './Strips'
import { Waiting } from './Waiting'
import bookingsCss from './bookings.module.css'

type BookingAnswer = Schemas['BookingResponse']
const DAY = 86_400_000

/** Your bookings, and who has what in the three weeks ahead. */
export function BookingsPage() {
  const { now, time } = useSession()
  const navigate = useNavigate()
  const [from] = useState(() => new Date(Math.floor(now() / 900_000) * 900_000).toISOString())
  const to = new Date(Date.parse(from) + 24 * DAY).toISOString()
  const bookings = useQuery({
    queryKey: ['live', 'bookings', from],
    queryFn: async ({ signal }) =>
      (await answer(client.GET('/api/bookings', { params: { query: { from, to } }, signal }))).items,
  })
  const recent = useQuery({
    queryKey: ['live', 'bookings', 'recent', from],
    queryFn: async ({ signal }) =>
      (
        await answer(
          client.GET('/api/bookings', {
            params: { query: { from: new Date(Date.parse(from) - 7 * DAY).toISOString(), to: from } },
            signal,
          }),
        )
      ).items,
  })
  const mine = bookings.data?.filter((b) => b.mine) ?? []
  const others = bookings.data?.filter((b) => !b.mine) ?? []
  const days = [...new Set(others.map((b) => time.iso(b.start)))]
  return (
    <>
      <PageHead title="Bookings" sub="A booking gives time, not permission.">
        <Link to="/bookings/jobs">Jobs</Link>
        <Link to="/bookings/fixtures">Fixtures</Link>
        <Link to="/bookings/calendars">Calendars</Link>
        <Link to="/bookings/use">Use</Link>
        <Link to="/bookings/soonest">Which machine, soonest?</Link>
        <Link className="btn btn-primary" to="/ask">
          Ask for a time
        </Link>
      </PageHead>
      {bookings.isPending && <Loading what="the bookings" />}
      <Failure error={bookings.error} retry={() => void bookings.refetch()} />
      {bookings.data && (
        <>
          <Waiting />
          <section className="mt-3">
            <RunOn title="Yours" after={mine.length} />
            {mine.length === 0 ? (
              <Empty
                title="You have nothing booked"
                action={{ text: 'Ask the gate', onClick: () => void navigate('/ask') }}
              >
                To book, ask the gate first: say what you want to run, and when.
              </Empty>
            ) : (
              <List bookings={mine} others={others} day />
            )}
          </section>
          <Strips />
          {recent.data && <Runs recent={recent.data} />}
          <section className="mt-4">
            <RunOn title="Everybody" after={`${others.length} in three weeks`} />
            {days.map((day) => (
              <div key={day} className={bookingsCss.bookday}>
                <h3>{time.day(others.find((b) => time.iso(b.start) === day)!.start)}</h3>
                <List bookings={others.filter((b) => time.iso(b.start) === day)} others={[]} />
              </div>
            ))}
          </section>
        </>
      )}
    </>
  )
}

function List({ bookings, others, day }: { bookings: BookingAnswer[]; others: BookingAnswer[]; day?: boolean }) {
  const { me, now, time } = useSession()
  const staff = hasRole(me, 'steward', 'trainer')
  const machines = useMachines()
  const unit = useUnit()
  // Its day stands with it where it is another.
  const bench = (b: BookingAnswer, at: string) =>
    time.iso(at) === time.iso(b.start) ? time.clock(at) : time.moment(at)
  const thickness = (mm: number) => `${lengthIn(unit, mm)} ${unit}`
  return (
    <ul className={bookingsCss.bookings}>
      {bookings.map((b) => (
        <li key={b.id} data-booking={b.id}>
          <span className="when">
            {day && <b>{time.day(b.start)} </b>}
            <b>{time.clock(b.start)}</b> to {time.clock(b.end)}
          </span>
          <span>{machines.data?.find((m) => m.id === b.machineId)?.name ?? b.machineId}</span>
          <span className={bookingsCss.name}>{b.name}</span>
          <span className={bookingsCss.partsbar}>
            <BookingBar parts={b.parts} label={`${b.minutes} minutes`} />
          </span>
          <span className="quiet figure">
            {b.minutes} min{b.companions > 0 && `, ${b.companions} watching`}
          </span>
          <span className={bookingsCss.act}>
            {(b.mine || staff) && time.iso(b.start) === time.iso(now()) && <Arrive booking={b} />}{' '}
            {hasRole(me, 'steward') && !b.arrivedAt && Date.parse(b.start) < now() && <Release booking={b} />}
          </span>
          {(b.runs.length > 0 || b.next || b.bench) && (
            <span className={bookingsCss.runs}>
              {b.runs.map((r, i) => (
                <span key={i}>
                  <b>{r.drawing ?? r.material}</b>
                  {r.drawing && `, ${r.material}`}, {thickness(r.thicknessMm)}
                  {r.tag && `, ${r.tag}`}.{' '}
                </span>
              ))}
              {b.bench && `Finishing bench ${bench(b, b.bench.start)} to ${time.clock(b.bench.end)}. `}
              {b.next && time.iso(b.start) === time.iso(now()) && b.next.says}
            </span>
          )}
          {(b.mine || staff) && (
            <span className={bookingsCss.change}>
              <Change booking={b} others={others.filter((o) => Date.parse(o.start) > now())} />
            </span>
          )}
          {b.atRisk && (
            <span className={bookingsCss.risk}>
              <Standing standing="shut" word={`At risk since ${time.moment(b.atRisk.since)}`} width={18} />{' '}
              {b.atRisk.reasons.map((r) => r.text).join(' ')} The time is kept until the house releases it.
            </span>
          )}
        </li>
      ))}
    </ul>
  )
}

/** A no-show's time given to others; the server says whether the grace is over. */
function Release({ booking }: { booking: BookingAnswer }) {
  const release = useAction(() =>
    answer(client.POST('/api/bookings/{id}/release', { params: { path: { id: booking.id } } })),
  )
  return (
    <>
      <button type="button" className="quietlink" onClick={() => release.mutate()} disabled={release.isPending}>
        Nobody came
      </button>
      {release.isError && <span role="alert"> {release.error.message}</span>}
    </>
  )
}
