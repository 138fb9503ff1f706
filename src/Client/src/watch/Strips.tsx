import { useEffect, useRef, useState } from 'react'
import type { Schemas } from '../kit/api'
import { BookingBar } from '../kit/BookingBar'
import { useSession } from '../kit/session'
import { lengthIn, useUnit } from '../kit/units'
import { Standing } from '../kit/Standing'
import { AtMachine } from './AtMachine'
import watchCss from './watch.module.css'

type Watch = Schemas['WatchResponse']
type Booked = Schemas['WatchBooking']
type Machine = Schemas['WatchMachine']

/** The present, counted on locally twice a minute: nothing is fetched for it. */
function useNow() {
  const { now } = useSession()
  const [at, setAt] = useState(now)
  useEffect(() => {
    const timer = setInterval(() => setAt(now()), 30_000)
    return () => clearInterval(timer)
  }, [now])
  return at
}

/** A strip for each machine over the opening hours. On a phone one band a machine, in words. */
export function Strips({ watch }: { watch: Watch }) {
  const { time } = useSession()
  const unit = useUnit()
  const now = useNow()
  const lane = useRef<HTMLDivElement>(null)
  const [width, setWidth] = useState(946)
  useEffect(() => {
    if (!lane.current) return
    const see = new ResizeObserver(([entry]) => entry && setWidth(entry.contentRect.width))
    see.observe(lane.current)
    return () => see.disconnect()
  }, [])
  const bookings = watch.machines.flatMap((m) => m.bookings)
  // Hours outside the opening are shown when something is booked there.
  const from = Math.min(
    ...[watch.opens, ...bookings.map((b) => b.start)].filter((t) => t != null).map((t) => Date.parse(t)),
  )
  const to = Math.max(
    ...[watch.closes, ...bookings.map((b) => b.end)].filter((t) => t != null).map((t) => Date.parse(t)),
  )
  if (!Number.isFinite(from)) return <p className="quiet">Closed today, and nothing is booked.</p>
  const x = (at: string | number) => ((typeof at === 'number' ? at : Date.parse(at)) - from) / (to - from)
  const showNow = now >= from && now <= to
  return (
    <section className={watchCss.strips} aria-label="Machines today">
      <div className={watchCss.scale} ref={lane} aria-hidden="true">
        {/* The clock stands over the hour it hides. */}
        {watch.hours.map((hour) => (
          <span
            className={showNow && Math.abs(x(hour.at) - x(now)) * width < 44 ? watchCss.under : undefined}
            key={hour.at}
            style={{ left: `${100 * x(hour.at)}%` }}
          >
            {hour.label}
          </span>
        ))}
      </div>
      {watch.machines.map((machine) => (
        <div className={watchCss.mrow} key={machine.id} data-machine={machine.id}>
          <div className={watchCss.mname}>
            <h2>{machine.name}</h2>
            <div className={watchCss.spec}>
              {machine.powerW} W {machine.kind === 'co2' ? <>CO₂</> : machine.kind},{' '}
              {lengthIn(unit, machine.bedWidthMm)} × {lengthIn(unit, machine.bedHeightMm)} {unit}
            </div>
            <State machine={machine} bookings={machine.bookings} now={now} />
          </div>
          <div className="mstrip">
            <Info machine={machine} bookings={machine.bookings} now={now} />
            <ol className={watchCss.lane} aria-label={`Bookings on ${machine.name}`}>
              {machine.bookings.map((b, i) => (
                <Bar
                  key={b.id}
                  booking={b}
                  now={now}
                  left={x(b.start)}
                  right={x(b.end)}
                  room={
                    ((i + 1 < machine.bookings.length ? x(machine.bookings[i + 1]!.start) : 1.04) - x(b.start)) * width
                  }
                  flip={x(b.start) * width > width - 90}
                />
              ))}
              {machine.stop && <Rope from={Math.max(0, x(machine.stop.since))} width={width} />}
            </ol>
          </div>
        </div>
      ))}
      {showNow && (
        <div className={watchCss.over} aria-hidden="true">
          <div className={watchCss.plumb} style={{ left: `${100 * x(now)}%` }}>
            <b>{time.clock(now)}</b>
            <i />
            <svg width="16" height="30" viewBox="8 408 16 36">
              <path
                d="M10 416h12l-1.5 12L16 442l-4.5-14z"
                fill="#B6842A"
                stroke="#6F4B0C"
                strokeWidth="1.4"
                strokeLinejoin="round"
              />
            </svg>
          </div>
        </div>
      )}
    </section>
  )
}

const isOn = (b: Booked, now: number) => Date.parse(b.start) <= now && now < Date.parse(b.end)

function State({ machine, bookings, now }: { machine: Machine; bookings: Booked[]; now: number }) {
  if (machine.stop) return <Standing standing="shut" word="Stopped" width={20} />
  if (machine.station?.step)
    return (
      <span className={watchCss.state}>
        <i className={`tx ${machine.station.beam ? 'tx-run' : 'tx-checks'}`} />
        {machine.station.beam ? 'Beam on' : 'At the machine'}
      </span>
    )
  const on = bookings.find((b) => isOn(b, now))
  return (
    <span className={watchCss.state}>
      <i className={`tx ${on ? 'tx-run' : 'tx-spare'}`} />
      {on ? 'Booked' : 'Free'}
    </span>
  )
}

function Info({ machine, bookings, now }: { machine: Machine; bookings: Booked[]; now: number }) {
  const { time } = useSession()
  const on = bookings.find((b) => isOn(b, now))
  const next = bookings.find((b) => Date.parse(b.start) > now)
  return (
    <div className={watchCss.info}>
      {machine.station &&
      (machine.station.step ?? machine.station.warnings.length + machine.station.leftOpen.length) ? (
        <AtMachine id={machine.id} station={machine.station} />
      ) : null}
      {machine.stop ? (
        <span>
          <b>Stopped {time.moment(machine.stop.since)}</b> by {machine.stop.by}: {machine.stop.reason}
        </span>
      ) : machine.station?.step ? null : on ? (
        <span>
          <b>{on.name}</b> until {time.clock(on.end)}
        </span>
      ) : (
        <span>Nobody is on it.</span>
      )}
      {next && (
        <span className={watchCss.nx}>
          Next <b>{time.clock(next.start)}</b> {next.name}, {next.minutes} min
        </span>
      )}
    </div>
  )
}

function Bar({
  booking,
  now,
  left,
  right,
  room,
  flip,
}: {
  booking: Booked
  now: number
  left: number
  right: number
  room: number
  flip: boolean
}) {
  const { time } = useSession()
  const past = Date.parse(booking.end) <= now
  const on = isOn(booking, now)
  // When the next label is close, the surname goes first, then the whole label; readers always get the full name.
  const first = booking.name.split(' ')[0]
  const label = room > booking.name.length * 6.4 + 4 ? booking.name : room > (first?.length ?? 0) * 6.6 + 2 ? first : ''
  return (
    <li
      className={`${watchCss.bk} ${past ? 'past' : ''} ${on ? watchCss.on : ''} ${flip ? 'r' : ''} ${booking.mine ? watchCss.mine : ''}`}
      style={{ left: `${100 * left}%`, width: `${100 * (right - left)}%` }}
    >
      <BookingBar parts={booking.parts} />
      <span className="visually-hidden">
        {booking.name}, {time.clock(booking.start)} to {time.clock(booking.end)}
      </span>
      <span className={watchCss.who} aria-hidden="true">
        {label}
        {label && room > 34 && <span>{time.clock(booking.start)}</span>}
      </span>
    </li>
  )
}

/** The taut rope over the hours of a stopped machine. */
function Rope({ from, width }: { from: number; width: number }) {
  const start = from * width
  return (
    <li className={watchCss.tautrow} aria-hidden="true">
      <svg width={width + 12} height="34">
        <g fill="none">
          <path d={`M${start + 6} 12H${width - 6}`} stroke="#5A0F09" strokeWidth="9" />
          <path d={`M${start + 6} 12H${width - 6}`} stroke="#A81E12" strokeWidth="7" />
          <path d={`M${start + 6} 10.6H${width - 6}`} stroke="#E08A7F" strokeWidth="1.2" />
        </g>
        {[start + 4, width - 4].map((at) => (
          <g key={at} fill="#B6842A" stroke="#6F4B0C" strokeWidth="1.2">
            <rect x={at - 2.5} y="6" width="5" height="27" />
            <circle cx={at} cy="6" r="5" />
          </g>
        ))}
      </svg>
    </li>
  )
}
