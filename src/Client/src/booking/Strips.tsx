import { useQuery } from '@tanstack/react-query'
import { useRef, useState, type KeyboardEvent, type PointerEvent } from 'react'
import Button from 'react-bootstrap/Button'
import { useAction } from '../kit/Act'
import { answer, client, type Schemas } from '../kit/api'
import { BookingBar } from '../kit/BookingBar'
import { Failure, Loading, RunOn } from '../kit/parts'
import { dayQuery, hasRole, useMachines, useSession } from '../kit/session'
import { WeekStrips } from './WeekStrips'
import css from './strips.module.css'

type Booked = Schemas['BookingResponse']
type Day = Schemas['DayResponse'] & { opens: string; closes: string }

/** Where a booking would go: not yet asked for. */
interface Planned {
  booking: Booked
  start: string
  machineId: string
}

/** A day of every machine. A booking of yours is moved by dragging it, or with the arrow keys, and then confirmed. */
export function Strips() {
  const { now, time } = useSession()
  const [date, setDate] = useState(() => time.iso(now()))
  const day = useQuery(dayQuery(date))
  const open = day.data?.opens && day.data.closes ? (day.data as Day) : null
  const bookings = useQuery({
    queryKey: ['live', 'bookings', 'day', day.data?.opens, day.data?.closes],
    queryFn: async ({ signal }) =>
      (
        await answer(
          client.GET('/api/bookings', { params: { query: { from: open!.opens, to: open!.closes } }, signal }),
        )
      ).items,
    enabled: !!open,
  })
  const [planned, setPlanned] = useState<Planned | null>(null)
  const [weekly, setWeekly] = useState(false)
  return (
    <section className="mt-4" aria-label={weekly ? 'A week of one machine' : 'A day of every machine'}>
      <RunOn
        title={weekly ? `Seven days from ${day.data?.label ?? date}` : (day.data?.label ?? date)}
        after={open || weekly ? undefined : day.data && 'closed'}
      />
      <div className={css.days}>
        <Button size="sm" variant="outline-primary" onClick={() => setWeekly(!weekly)} data-view="week">
          {weekly ? 'A day of every machine' : 'A week of one machine'}
        </Button>
        <Button size="sm" variant="outline-primary" onClick={() => day.data && setDate(day.data.previous)}>
          Day before
        </Button>
        <input
          type="date"
          className="form-control"
          aria-label="Day to show"
          value={date}
          onChange={(e) => e.target.value && setDate(e.target.value)}
        />
        <Button size="sm" variant="outline-primary" onClick={() => day.data && setDate(day.data.next)}>
          Day after
        </Button>
      </div>
      {day.data?.clockChange && <p className="small">{day.data.clockChange}</p>}
      {weekly ? (
        <WeekStrips
          date={date}
          show={(to) => {
            setDate(to)
            setWeekly(false)
          }}
        />
      ) : (
        <>
          <Failure error={day.error ?? bookings.error} retry={() => void bookings.refetch()} />
          {open && bookings.isPending && <Loading what="the day" />}
          {open && bookings.data && <Lanes day={open} bookings={bookings.data} planned={planned} plan={setPlanned} />}
          {/* Below the lanes: above, it would push them from under the finger that moves a booking. */}
          {planned && <Confirm planned={planned} done={() => setPlanned(null)} />}
        </>
      )}
    </section>
  )
}

function Confirm({ planned, done }: { planned: Planned; done: () => void }) {
  const { time } = useSession()
  const machines = useMachines()
  const name = machines.data?.find((m) => m.id === planned.machineId)?.name ?? planned.machineId
  const move = useAction(
    () =>
      answer(
        client.POST('/api/bookings/{id}/move', {
          params: { path: { id: planned.booking.id } },
          body: { start: planned.start, machineId: planned.machineId, version: planned.booking.version },
        }),
      ),
    done,
  )
  return (
    <div className={css.confirm} role="status" aria-live="polite">
      <span>
        Booking {planned.booking.number}: from {time.clock(planned.booking.start)} to{' '}
        <b>
          {name}, {time.moment(planned.start)}
        </b>
        ?
      </span>
      <Button size="sm" onClick={() => move.mutate()} disabled={move.isPending} data-confirm="move">
        Move it
      </Button>
      <button type="button" className="quietlink" onClick={done}>
        Leave it
      </button>
      <Failure error={move.error} />
    </div>
  )
}

function Lanes({
  day,
  bookings,
  planned,
  plan,
}: {
  day: Day
  bookings: Booked[]
  planned: Planned | null
  plan: (to: Planned | null) => void
}) {
  const { now, time } = useSession()
  const machines = useMachines().data ?? []
  const [from, to] = [Date.parse(day.opens), Date.parse(day.closes)]
  const x = (at: string | number) => ((typeof at === 'number' ? at : Date.parse(at)) - from) / (to - from)
  const present = now()
  const hours = day.slots.filter((s) => time.clock(s.at).endsWith(':00'))
  return (
    <div className={css.strips}>
      <div className={css.scale} aria-hidden="true">
        {hours
          .filter((_, i) => hours.length < 10 || i % 2 === 0)
          .map((s) => (
            <span key={s.at} style={{ left: `${100 * x(s.at)}%` }}>
              {time.clock(s.at).slice(0, 2)}
            </span>
          ))}
      </div>
      {machines.map((m) => (
        <div key={m.id} className={css.row} data-strip={m.id}>
          <h3>{m.name}</h3>
          <ol className={css.lane} aria-label={`Bookings on ${m.name}`} data-lane={m.id}>
            {bookings
              .filter((b) => (planned?.booking.id === b.id ? planned.machineId : b.machineId) === m.id)
              .map((b) => (
                <Bar
                  key={b.id}
                  booking={b}
                  day={day}
                  start={planned?.booking.id === b.id ? planned.start : b.start}
                  machineId={m.id}
                  machines={machines.map((o) => o.id)}
                  x={x}
                  plan={plan}
                />
              ))}
          </ol>
        </div>
      ))}
      {present >= from && present <= to && (
        <div className={css.nowrap} aria-hidden="true">
          <i style={{ left: `${100 * x(present)}%` }} />
        </div>
      )}
    </div>
  )
}

function Bar({
  booking,
  day,
  start,
  machineId,
  machines,
  x,
  plan,
}: {
  booking: Booked
  day: Day
  start: string
  machineId: string
  machines: string[]
  x: (at: string | number) => number
  plan: (to: Planned | null) => void
}) {
  const { me, now, time } = useSession()
  const length = Date.parse(booking.end) - Date.parse(booking.start)
  const movable =
    (booking.mine || hasRole(me, 'steward', 'trainer')) && !booking.arrivedAt && Date.parse(booking.start) > now()
  const held = useRef<{ at: number; width: number } | null>(null)
  const slots = day.slots.filter((s) => Date.parse(s.at) + length <= Date.parse(day.closes))
  const nearest = (at: number) =>
    slots.reduce((a, b) => (Math.abs(Date.parse(b.at) - at) < Math.abs(Date.parse(a.at) - at) ? b : a), slots[0]!)
  const put = (to: string, machine: string) =>
    plan(to === booking.start && machine === booking.machineId ? null : { booking, start: to, machineId: machine })
  const down = (event: PointerEvent<HTMLButtonElement>) => {
    const lane = event.currentTarget.closest('ol')!
    held.current = { at: event.clientX - lane.getBoundingClientRect().width * x(start), width: lane.clientWidth }
    event.currentTarget.setPointerCapture(event.pointerId)
  }
  const moved = (event: PointerEvent<HTMLButtonElement>) => {
    if (!held.current || slots.length === 0) return
    const share = (event.clientX - held.current.at) / held.current.width
    const over = document
      .elementsFromPoint(event.clientX, event.clientY)
      .find((e) => e instanceof HTMLElement && e.dataset.lane)
    const machine = over instanceof HTMLElement ? over.dataset.lane! : machineId
    put(nearest(Date.parse(day.opens) + share * (Date.parse(day.closes) - Date.parse(day.opens))).at, machine)
  }
  const key = (event: KeyboardEvent) => {
    const step = { ArrowLeft: -1, ArrowRight: 1 }[event.key]
    const other = { ArrowUp: -1, ArrowDown: 1 }[event.key]
    if (event.key === 'Escape') plan(null)
    if (step === undefined && other === undefined) return
    event.preventDefault()
    const i = slots.findIndex((s) => s.at === nearest(Date.parse(start)).at)
    const to = slots[Math.min(slots.length - 1, Math.max(0, i + (step ?? 0)))]
    const machine = machines[Math.min(machines.length - 1, Math.max(0, machines.indexOf(machineId) + (other ?? 0)))]
    if (to && machine) put(other === undefined ? to.at : start, machine)
  }
  const words = `${booking.name}, ${time.clock(start)} to ${time.clock(Date.parse(start) + length)}`
  const box = { left: `${100 * x(start)}%`, width: `${100 * (x(Date.parse(start) + length) - x(start))}%` }
  return (
    <li
      className={`${css.bk} ${booking.mine ? css.mine : ''} ${start !== booking.start ? css.planned : ''}`}
      style={box}
    >
      {movable ? (
        <button
          type="button"
          className={css.grip}
          data-move={booking.id}
          aria-label={`${words}. Arrow keys move it.`}
          onPointerDown={down}
          onPointerMove={moved}
          onPointerUp={() => (held.current = null)}
          onPointerCancel={() => (held.current = null)}
          onKeyDown={key}
        >
          <BookingBar parts={booking.parts} />
        </button>
      ) : (
        <>
          <BookingBar parts={booking.parts} />
          <span className="visually-hidden">{words}</span>
        </>
      )}
      <span className={css.who} aria-hidden="true">
        {booking.name}
      </span>
    </li>
  )
}
