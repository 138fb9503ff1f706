import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState, type FormEvent, type ReactNode } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { Link } from 'react-router'
import { answer, client, type Schemas } from '../shared/api'
import { Failure, Field, fieldErrors, Ticket } from '../shared/parts'
import { hasRole, useSession } from '../shared/session'
import { Standing } from '../shared/Standing'

type PersonAnswer = Schemas['PersonAnswer']

/** One person: what they hold, and what you may do about it. */
export function PersonCard({ person, machines }: { person: PersonAnswer; machines: Schemas['MachineAnswer'][] }) {
  const { me, time } = useSession()
  const trains = me.roles.filter((r) => r.startsWith('trainer:')).map((r) => r.slice(8))
  const name = (authority: string) => {
    const [machine, addOn] = authority.split('/')
    return `${machines.find((m) => m.id === machine)?.name ?? machine}${addOn ? ` with ${addOn}` : ''}`
  }
  return (
    <Ticket label={person.name}>
      <h2>{person.name}</h2>
      {person.roles && <p className="small quiet">{person.roles.map((r) => r.replace(':', ' on ')).join(', ')}</p>}
      {person.pause && (
        <p>
          <Standing standing="shut" word={`Paused since ${time.day(person.pause.since)}`} />
          <br />
          {person.pause.reason}
        </p>
      )}
      {person.certificates &&
        (person.certificates.length === 0 ? (
          <p>No certificate yet.</p>
        ) : (
          <ul className="plainlist">
            {person.certificates.map((c) => (
              <li key={c.authority}>
                <b>{name(c.authority)}</b> {c.until ? `to ${time.date(Date.parse(c.until) - 1)}` : 'without end'}
              </li>
            ))}
          </ul>
        ))}
      {(person.me || hasRole(me, 'steward') || trains.length > 0) && (
        <p>
          <Link to={person.me ? '/training/ladder' : `/training/ladder?person=${person.id}`}>
            Which steps are done, and what comes next
          </Link>
        </p>
      )}
      {trains.length > 0 && !person.me && (
        <SignOff
          person={person}
          authorities={machines
            .filter((m) => trains.includes(m.id))
            .flatMap((m) => [m.id, ...m.fixtures.filter((f) => f === 'rotary').map((f) => `${m.id}/${f}`)])}
          name={name}
        />
      )}
      {hasRole(me, 'steward') &&
        !person.me &&
        (person.pause ? <Release pause={person.pause.id} /> : <Pause person={person} />)}
    </Ticket>
  )
}

function Act({
  title,
  button,
  danger,
  done,
  children,
  submit,
  pending,
}: {
  title: string
  button: string
  danger?: boolean
  done?: string
  children: ReactNode
  submit: () => void
  pending: boolean
}) {
  return (
    <>
      <hr className="dash" />
      <h3>{title}</h3>
      <Form
        noValidate
        onSubmit={(event: FormEvent) => {
          event.preventDefault()
          submit()
        }}
      >
        {children}
        <Button type="submit" size="sm" variant={danger ? 'danger' : 'primary'} disabled={pending}>
          {button}
        </Button>
      </Form>
      {done && (
        <p role="status" className="mt-2 mb-0">
          <b>{done}</b>
        </p>
      )}
    </>
  )
}

const useRefresh = () => {
  const queries = useQueryClient()
  return () => queries.invalidateQueries({ queryKey: ['live'] })
}

function SignOff({
  person,
  authorities,
  name,
}: {
  person: PersonAnswer
  authorities: string[]
  name: (authority: string) => string
}) {
  const [authority, setAuthority] = useState(authorities[0] ?? '')
  const [note, setNote] = useState('')
  const refresh = useRefresh()
  const sign = useMutation({
    mutationFn: () => answer(client.POST('/api/sign-offs', { body: { memberId: person.id, authority, note } })),
    onSuccess: async () => {
      setNote('')
      await refresh()
    },
  })
  const errors = fieldErrors(sign.error)
  return (
    <Act
      title="Sign off"
      button={`Sign off for ${name(authority)}`}
      submit={() => sign.mutate()}
      pending={sign.isPending}
      done={sign.data && `Signed off for ${name(sign.data.authority)}.`}
    >
      <Field label="For" id="authority" error={errors.authority}>
        <Form.Select id="authority" value={authority} onChange={(event) => setAuthority(event.target.value)}>
          {authorities.map((a) => (
            <option key={a} value={a}>
              {name(a)}
            </option>
          ))}
        </Form.Select>
      </Field>
      <Field label="What you saw" id="signoff-note" error={errors.note}>
        <Form.Control
          as="textarea"
          id="signoff-note"
          rows={3}
          value={note}
          isInvalid={!!errors.note}
          onChange={(event) => setNote(event.target.value)}
        />
      </Field>
      {sign.isError && !errors.note && !errors.authority && <Failure error={sign.error} />}
    </Act>
  )
}

function Pause({ person }: { person: PersonAnswer }) {
  const [reason, setReason] = useState('')
  const refresh = useRefresh()
  const pause = useMutation({
    mutationFn: () =>
      answer(client.POST('/api/people/{id}/pauses', { params: { path: { id: person.id } }, body: { reason } })),
    onSuccess: refresh,
  })
  const errors = fieldErrors(pause.error)
  return (
    <Act title="Pause" button="Pause until released" danger submit={() => pause.mutate()} pending={pause.isPending}>
      <Field label="Why, for the person and the stewards" id="pause-reason" error={errors.reason}>
        <Form.Control
          as="textarea"
          id="pause-reason"
          rows={2}
          value={reason}
          isInvalid={!!errors.reason}
          onChange={(event) => setReason(event.target.value)}
        />
      </Field>
      {pause.isError && !errors.reason && <Failure error={pause.error} />}
    </Act>
  )
}

function Release({ pause }: { pause: string }) {
  const [reason, setReason] = useState('')
  const refresh = useRefresh()
  const release = useMutation({
    mutationFn: () =>
      answer(client.POST('/api/pauses/{id}/release', { params: { path: { id: pause } }, body: { reason } })),
    onSuccess: refresh,
  })
  const errors = fieldErrors(release.error)
  return (
    <Act
      title="Release"
      button="Release"
      done={(release.data as Schemas['HoldAnswer'] | undefined)?.text}
      submit={() => release.mutate()}
      pending={release.isPending}
    >
      <Field label="Why it ends" id="release-reason" error={errors.reason}>
        <Form.Control
          as="textarea"
          id="release-reason"
          rows={2}
          value={reason}
          isInvalid={!!errors.reason}
          onChange={(event) => setReason(event.target.value)}
        />
      </Field>
      {release.isError && !errors.reason && <Failure error={release.error} />}
    </Act>
  )
}
