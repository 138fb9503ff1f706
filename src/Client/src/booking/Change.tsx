import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import Form from 'react-bootstrap/Form'
import { Act, useAction } from '../kit/Act'
import { answer, client, type Schemas } from '../kit/api'
import { MachineField } from '../kit/MachineField'
import { Field, fieldErrors } from '../kit/parts'
import bookingsCss from './bookings.module.css'
import { dayQuery, hasRole, peopleQuery, useMachines, useSession } from '../kit/session'

type Booked = Schemas['BookingResponse']

/** Whatever may become of a booking: another time, more of it, another person, or none. */
export function Change({ booking, others }: { booking: Booked; others: Booked[] }) {
  const { me, now } = useSession()
  const begun = Date.parse(booking.start) <= now() || !!booking.arrivedAt
  const staff = hasRole(me, 'steward', 'trainer')
  const [open, setOpen] = useState(false)
  return (
    <details className="fold" onToggle={(event) => setOpen(event.currentTarget.open)}>
      <summary>Change it</summary>
      {open && (
        <div className={bookingsCss.changes}>
          {!begun && <Move booking={booking} />}
          <Extend booking={booking} />
          {!begun && booking.mine && others.length > 0 && <Swap booking={booking} others={others} />}
          {staff && <HandOver booking={booking} />}
          {!booking.arrivedAt && <Cancel booking={booking} />}
        </div>
      )}
    </details>
  )
}

function Move({ booking }: { booking: Booked }) {
  const { time } = useSession()
  const [date, setDate] = useState(time.iso(booking.start))
  const [start, setStart] = useState(booking.start)
  const [machineId, setMachine] = useState(booking.machineId)
  const day = useQuery(dayQuery(date))
  const slots = day.data?.slots ?? []
  // A day has its own clock: the slot is found by its instant, not by its words.
  const chosen = slots.find((s) => s.at === start) ?? slots.find((s) => s.label === time.clock(start)) ?? slots[0]
  const move = useAction(() =>
    answer(
      client.POST('/api/bookings/{id}/move', {
        params: { path: { id: booking.id } },
        body: { start: chosen?.at, machineId, version: booking.version },
      }),
    ),
  )
  const errors = fieldErrors(move.error)
  return (
    <Act act={move} button="Move it" fields={['start', 'machineId']} done={move.isSuccess && 'Moved.'}>
      <div className="d-flex flex-wrap gap-3">
        <Field label="Day" id={`day-${booking.id}`}>
          <Form.Control
            id={`day-${booking.id}`}
            type="date"
            value={date}
            onChange={(e) => e.target.value && setDate(e.target.value)}
          />
        </Field>
        <Field label="Start" id={`start-${booking.id}`} error={errors.start}>
          <Form.Select id={`start-${booking.id}`} value={chosen?.at ?? ''} onChange={(e) => setStart(e.target.value)}>
            {slots.length === 0 && <option value="">closed that day</option>}
            {slots.map((s) => (
              <option key={s.at} value={s.at}>
                {s.label}
              </option>
            ))}
          </Form.Select>
        </Field>
        <MachineField
          id={`machine-${booking.id}`}
          label="Machine"
          error={errors.machineId}
          value={machineId}
          put={setMachine}
        />
      </div>
    </Act>
  )
}

function Extend({ booking }: { booking: Booked }) {
  const [minutes, setMinutes] = useState('15')
  const extend = useAction(() =>
    answer(
      client.POST('/api/bookings/{id}/extend', {
        params: { path: { id: booking.id } },
        body: { minutes: Number(minutes), version: booking.version },
      }),
    ),
  )
  return (
    <Act act={extend} button="Make it longer" fields={['minutes']} done={extend.isSuccess && 'It is longer now.'}>
      <Field label="More minutes" id={`more-${booking.id}`} error={fieldErrors(extend.error).minutes}>
        <Form.Control
          id={`more-${booking.id}`}
          inputMode="numeric"
          value={minutes}
          onChange={(e) => setMinutes(e.target.value)}
        />
      </Field>
    </Act>
  )
}

function Swap({ booking, others }: { booking: Booked; others: Booked[] }) {
  const { time } = useSession()
  const machines = useMachines()
  const [withId, setWith] = useState('')
  const swap = useAction(() =>
    answer(
      client.POST('/api/bookings/{id}/swap', { params: { path: { id: booking.id } }, body: { withBookingId: withId } }),
    ),
  )
  return (
    <Act
      act={swap}
      button="Ask to swap"
      fields={['withBookingId']}
      done={swap.isSuccess && 'Asked. Nothing changes before they agree.'}
    >
      <Field label="Swap times with" id={`swap-${booking.id}`} error={fieldErrors(swap.error).withBookingId}>
        <Form.Select id={`swap-${booking.id}`} value={withId} onChange={(e) => setWith(e.target.value)}>
          <option value="">choose a booking</option>
          {others.map((o) => (
            <option key={o.id} value={o.id}>
              {time.moment(o.start)}, {machines.data?.find((m) => m.id === o.machineId)?.name ?? o.machineId}, {o.name}
            </option>
          ))}
        </Form.Select>
      </Field>
    </Act>
  )
}

function HandOver({ booking }: { booking: Booked }) {
  const people = useQuery(peopleQuery)
  const [memberId, setMember] = useState('')
  const hand = useAction(() =>
    answer(
      client.POST('/api/bookings/{id}/hand-over', {
        params: { path: { id: booking.id } },
        body: { memberId, version: booking.version },
      }),
    ),
  )
  return (
    <Act act={hand} button="Hand it over" fields={['memberId']} done={hand.isSuccess && 'Handed over; both are told.'}>
      <Field label="To another certified person" id={`hand-${booking.id}`} error={fieldErrors(hand.error).memberId}>
        <Form.Select id={`hand-${booking.id}`} value={memberId} onChange={(e) => setMember(e.target.value)}>
          <option value="">choose somebody</option>
          {people.data
            ?.filter((p) => p.id !== booking.memberId)
            .map((p) => (
              <option key={p.id} value={p.id}>
                {p.name}
              </option>
            ))}
        </Form.Select>
      </Field>
    </Act>
  )
}

function Cancel({ booking }: { booking: Booked }) {
  const [reason, setReason] = useState('')
  const cancel = useAction(() =>
    answer(
      client.POST('/api/bookings/{id}/cancel', {
        params: { path: { id: booking.id } },
        body: { reason: reason || null },
      }),
    ),
  )
  return (
    <Act act={cancel} button="Give the time back" fields={[]} danger>
      <Field label="Why, if you like" id={`why-${booking.id}`}>
        <Form.Control id={`why-${booking.id}`} value={reason} onChange={(e) => setReason(e.target.value)} />
      </Field>
    </Act>
  )
}
