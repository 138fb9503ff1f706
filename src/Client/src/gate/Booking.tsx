import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { Link } from 'react-router'
import { answer, client, type Schemas } from '../kit/api'
import { PartList } from '../kit/BookingBar'
import { Failure, Field, fieldErrors, Ticket } from '../kit/parts'
import { useMachines, useSession } from '../kit/session'
import { KeepJob } from './KeepJob'

/** What a question led to: a booking, or an ask that waits. */
export type Outcome = { booked: Schemas['BookingResponse'] } | 'asked'

interface BookingProps {
  gate: Schemas['GateResponse']
  body: Schemas['GateQuestionRequest']
  outcome: Outcome | null
  done: (outcome: Outcome) => void
}

/** How the booking is built up, and the act the verdict allows. */
export function Booking({ gate, body, outcome, done }: BookingProps) {
  const { time } = useSession()
  const whole = { ...body, minutes: gate.asked.minutes, start: gate.asked.start }
  return (
    <Ticket label="Booking">
      <h2>The booking</h2>
      <p className="small quiet">
        {time.moment(gate.asked.start)}, {gate.asked.minutes} min
      </p>
      <PartList length={gate.length} minutes={gate.asked.minutes} />
      {gate.handling.map((note) => (
        <p key={`${note.item} ${note.text}`} className="small mb-1">
          <b>{note.material}.</b> {note.text}
        </p>
      ))}
      <hr className="dash" />
      {outcome && <Done outcome={outcome} />}
      {!outcome && gate.verdict === 'shut' && (
        <p className="mb-0">The gate is shut, so there is nothing to book. The signs say what would open it.</p>
      )}
      {!outcome && gate.verdict === 'ask' && gate.mayBeLifted && (
        <AskSteward key={JSON.stringify(body)} body={whole} done={done} />
      )}
      {!outcome && (gate.verdict === 'open' || gate.verdict === 'conditions') && (
        <Book key={JSON.stringify(whole)} body={whole} done={done} />
      )}
      <LidWait machineId={body.machineId} />
      <KeepJob question={whole} />
    </Ticket>
  )
}

/** What follows every run on this machine. */
function LidWait({ machineId }: { machineId?: string | null }) {
  const machine = useMachines().data?.find((m) => m.id === machineId)
  if (machine?.lidShutSeconds == null) return null
  return (
    <p className="small quiet mb-0">
      After each run the lid of {machine.name} stays shut for {machine.lidShutSeconds} s at least.{' '}
      <Link to="/materials/calculators/air">How that is worked out</Link>
    </p>
  )
}

function Done({ outcome }: { outcome: Outcome }) {
  const { time } = useSession()
  if (outcome === 'asked')
    return (
      <p role="status" className="mb-0">
        <b>Asked.</b> Stewards see it in Watch, with all seven posts, until one of them answers.
      </p>
    )
  const { booked } = outcome
  return (
    <p role="status" className="mb-0">
      <b>Booked.</b> Number {booked.number}, {time.moment(booked.start)} to {time.clock(booked.end)}.{' '}
      <Link to="/bookings">See your bookings</Link>
    </p>
  )
}

function Book({ body, done }: { body: Schemas['GateQuestionRequest']; done: BookingProps['done'] }) {
  const { time } = useSession()
  const queries = useQueryClient()
  // One id for one wish: pressing twice, or again after a lost answer, books once.
  const [id] = useState(() => crypto.randomUUID())
  const [companions, setCompanions] = useState('0')
  const book = useMutation({
    mutationFn: () => answer(client.POST('/api/bookings', { body: { ...body, id, companions: Number(companions) } })),
    onSuccess: (booked) => {
      done({ booked })
      return queries.invalidateQueries({ queryKey: ['live', 'watch'] })
    },
    onError: () => queries.invalidateQueries({ queryKey: ['live'] }),
  })
  return (
    <>
      <Failure error={book.error} />
      <Field
        label="Come along to watch, looking after nothing"
        id="companions"
        error={fieldErrors(book.error).companions}
      >
        <Form.Select id="companions" value={companions} onChange={(event) => setCompanions(event.target.value)}>
          {['0', '1', '2', '3', '4', '5', '10', '20'].map((n) => (
            <option key={n} value={n}>
              {n === '0' ? 'nobody' : n}
            </option>
          ))}
        </Form.Select>
      </Field>
      <Button onClick={() => book.mutate()} disabled={book.isPending}>
        Book {time.moment(body.start!)}
      </Button>
      <p className="small quiet mt-2 mb-0">
        A booking gives time, not permission: the gate is asked again at the machine.
      </p>
    </>
  )
}

function AskSteward({ body, done }: { body: Schemas['GateQuestionRequest']; done: BookingProps['done'] }) {
  const [note, setNote] = useState('')
  const queries = useQueryClient()
  const ask = useMutation({
    mutationFn: () => answer(client.POST('/api/asks', { body: { ...body, note } })),
    onSuccess: () => {
      done('asked')
      return queries.invalidateQueries({ queryKey: ['live', 'watch'] })
    },
  })
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
