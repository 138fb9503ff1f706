import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { Link } from 'react-router'
import { answer, client, type Schemas } from '../shared/api'
import { PartList } from '../shared/BookingBar'
import { Failure, Field, fieldErrors, Ticket } from '../shared/parts'
import { useSession } from '../shared/session'

/** How the booking is built up, and the act the verdict allows. */
export function Booking({ gate, body }: { gate: Schemas['AskAnswer']; body: Schemas['AskRequest'] }) {
  const { time } = useSession()
  const whole = { ...body, minutes: gate.asked.minutes, start: gate.asked.start }
  return (
    <Ticket label="Booking">
      <h2>The booking</h2>
      <p className="small quiet">
        {time.moment(gate.asked.start)}, {gate.asked.minutes} min
      </p>
      <PartList length={gate.length} minutes={gate.asked.minutes} />
      <hr className="dash" />
      {gate.verdict === 'shut' && (
        <p className="mb-0">The gate is shut, so there is nothing to book. The signs say what would open it.</p>
      )}
      {gate.verdict === 'ask' && <AskSteward key={JSON.stringify(body)} body={whole} />}
      {(gate.verdict === 'open' || gate.verdict === 'conditions') && <Book key={JSON.stringify(whole)} body={whole} />}
    </Ticket>
  )
}

function Book({ body }: { body: Schemas['AskRequest'] }) {
  const { time } = useSession()
  const queries = useQueryClient()
  // One id for one wish: pressing twice, or again after a lost answer, books once.
  const [id] = useState(() => crypto.randomUUID())
  const book = useMutation({
    mutationFn: () => answer(client.POST('/api/bookings', { body: { ...body, id } })),
    onSuccess: () => queries.invalidateQueries({ queryKey: ['live', 'watch'] }),
    onError: () => queries.invalidateQueries({ queryKey: ['live'] }),
  })
  if (book.data)
    return (
      <p role="status" className="mb-0">
        <b>Booked.</b> Number {book.data.number}, {time.moment(book.data.start)} to {time.clock(book.data.end)}.{' '}
        <Link to="/bookings">See your bookings</Link>
      </p>
    )
  return (
    <>
      <Failure error={book.error} />
      <Button onClick={() => book.mutate()} disabled={book.isPending}>
        Book {time.moment(body.start!)}
      </Button>
      <p className="small quiet mt-2 mb-0">
        A booking gives time, not permission: the gate is asked again at the machine.
      </p>
    </>
  )
}

function AskSteward({ body }: { body: Schemas['AskRequest'] }) {
  const [note, setNote] = useState('')
  const queries = useQueryClient()
  const ask = useMutation({
    mutationFn: () => answer(client.POST('/api/asks', { body: { ...body, note } })),
    onSuccess: () => queries.invalidateQueries({ queryKey: ['live', 'watch'] }),
  })
  if (ask.data)
    return (
      <p role="status" className="mb-0">
        <b>Asked.</b> It stands in Watch with the whole line of posts until a steward answers.
      </p>
    )
  const errors = fieldErrors(ask.error)
  return (
    <Form
      onSubmit={(event) => {
        event.preventDefault()
        ask.mutate()
      }}
    >
      <Field label="What should the steward know?" id="ask-note" error={errors.note}>
        <Form.Control
          as="textarea"
          id="ask-note"
          rows={3}
          value={note}
          onChange={(event) => setNote(event.target.value)}
        />
      </Field>
      {ask.isError && !errors.note && <Failure error={ask.error} />}
      <Button type="submit" disabled={ask.isPending}>
        Ask a steward
      </Button>
    </Form>
  )
}
