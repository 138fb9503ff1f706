import { useAction } from '../kit/Act'
import { useQuery } from '@tanstack/react-query'
import { useEffect, useState, type SubmitEvent } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { useNavigate } from 'react-router'
import { answer, client, type Schemas } from '../kit/api'
import { Failure, Field, fieldErrors, Ticket } from '../kit/parts'
import { hasRole, useSession } from '../kit/session'
import { askAddress, type AskState } from './askState'

type Waiting = Schemas['StewardRequestResponse']

const states: Record<string, string> = {
  waiting: 'Waits for a steward',
  lifted: 'Lifted, once',
  refused: 'Refused',
  takenBack: 'Lifted, and taken back',
  withdrawn: 'Withdrawn',
  expired: 'Refused: nobody answered in time',
}

/** The request that this question was opened from: what the person wrote, how it stands, and what may be done about it. */
export function Asked({ state }: { state: AskState }) {
  const { time } = useSession()
  const navigate = useNavigate()
  const asked = useQuery({
    queryKey: ['live', 'asks', state.asked],
    queryFn: ({ signal }) => answer(client.GET('/api/asks/{id}', { params: { path: { id: state.asked! } }, signal })),
    enabled: !!state.asked,
    retry: false,
  })
  const ask = asked.data
  useEffect(() => {
    // A link that only names the ask opens its whole question.
    if (ask && !state.machine) void navigate(askAddress(ask.ask, ask.id), { replace: true })
  }, [ask, state.machine, navigate])
  if (!state.asked) return null
  if (asked.isError) return <Failure error={asked.error} />
  if (!ask) return null
  return (
    <Ticket label="The request">
      <h2>{ask.mine ? 'Your request' : `${ask.name} asks`}</h2>
      <p>{ask.note ?? 'Without a note.'}</p>
      <p>
        <b>{states[ask.state] ?? ask.state}</b>
        {ask.state === 'waiting' && `; unanswered at ${time.moment(ask.answerBy)} it is refused`}
        {ask.answeredAt && `, ${time.moment(ask.answeredAt)}`}
        {ask.booked && '; it is booked'}.{ask.answer && ` “${ask.answer}”`}
      </p>
      <Acts ask={ask} />
    </Ticket>
  )
}

function Acts({ ask }: { ask: Waiting }) {
  const { me } = useSession()
  const answers = hasRole(me, 'steward', 'countersigner') && !ask.mine
  if (ask.mine && ask.state === 'waiting') return <Withdraw id={ask.id} />
  if (answers && ask.state === 'waiting')
    return (
      <Answer id={ask.id} acts={{ lift: 'Lift once', refuse: 'Refuse' }} label="Why, in a sentence for the record" />
    )
  if (answers && ask.state === 'lifted')
    return <Answer id={ask.id} acts={{ 'take-back': 'Take the lift back' }} label="Why it is taken back" />
  return null
}

type Word = 'lift' | 'refuse' | 'take-back'

function Answer({ id, acts, label }: { id: string; acts: Partial<Record<Word, string>>; label: string }) {
  const [reason, setReason] = useState('')
  const act = useAction((word: Word) =>
    answer(client.POST(`/api/asks/{id}/${word}`, { params: { path: { id } }, body: { reason } })),
  )
  const errors = fieldErrors(act.error)
  const words = Object.entries(acts) as [Word, string][]
  return (
    <Form
      noValidate
      onSubmit={(event: SubmitEvent) => {
        event.preventDefault()
        act.mutate(words[0]![0])
      }}
    >
      <Field label={label} id="answer-reason" error={errors.reason}>
        <Form.Control
          as="textarea"
          id="answer-reason"
          rows={2}
          value={reason}
          isInvalid={!!errors.reason}
          onChange={(event) => setReason(event.target.value)}
        />
      </Field>
      {act.isError && !errors.reason && <Failure error={act.error} />}
      <div className="d-flex gap-2">
        {words.map(([word, text], i) => (
          <Button
            key={word}
            type={i === 0 ? 'submit' : 'button'}
            variant={word === 'lift' ? 'primary' : 'outline-primary'}
            disabled={act.isPending}
            onClick={i === 0 ? undefined : () => act.mutate(word)}
          >
            {text}
          </Button>
        ))}
      </div>
    </Form>
  )
}

function Withdraw({ id }: { id: string }) {
  const act = useAction(() => answer(client.POST('/api/asks/{id}/withdraw', { params: { path: { id } } })))
  return (
    <>
      <Failure error={act.error} />
      <Button variant="outline-primary" size="sm" disabled={act.isPending} onClick={() => act.mutate()}>
        Withdraw the request
      </Button>
    </>
  )
}
