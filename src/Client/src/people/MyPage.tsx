import { useAction } from '../kit/Act'
import { useMutation, useQuery } from '@tanstack/react-query'
import { useState, type SubmitEvent } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { answer, client } from '../kit/api'
import { Failure, fieldErrors, Loading, PageHead, RunOn, TextField } from '../kit/parts'
import { useMachines, useSession } from '../kit/session'
import { Agreeing } from './Agreeing'
import { PhoneCode } from './PhoneCode'
import { SignIns } from './SignIns'
import { TapInCode } from './TapInCode'

/** One's own account: the agreement to sign, consents, password, and everything held about one. */
export function MyPage() {
  const { me, time } = useSession()
  const machines = useMachines()
  const mine = useQuery({
    queryKey: ['live', 'my-account'],
    queryFn: ({ signal }) => answer(client.GET('/api/me/account', { signal })),
  })
  const sign = useAction(() => answer(client.POST('/api/me/agreement')))
  if (mine.isPending) return <Loading what="your account" />
  if (!mine.data) return <Failure error={mine.error} retry={() => void mine.refetch()} />
  const { account, agreement, signedSince } = mine.data
  return (
    <>
      <PageHead title="You" sub={me.name} />
      <section>
        <RunOn title="House agreement" after={signedSince ? `signed ${time.date(signedSince)}` : 'not signed yet'} />
        <p className="mt-2 agreement">{agreement}</p>
        <Failure error={sign.error} />
        {!signedSince && (
          <Button onClick={() => sign.mutate()} disabled={sign.isPending}>
            I have read this and sign it
          </Button>
        )}
      </section>
      <section className="sheetgroup">
        <RunOn title="Account" />
        <ul className="plainlist">
          <li>
            {account.ends ? `Its last day is ${time.date(Date.parse(account.ends) - 1)}.` : 'No last day is set.'}
          </li>
          {account.roles.map((r) => (
            <li key={r.rowId}>
              {r.role}
              {r.machineId && ` on ${machines.data?.find((m) => m.id === r.machineId)?.name ?? r.machineId}`} since{' '}
              {time.date(r.since)}
              {r.until && `, to ${time.date(Date.parse(r.until) - 1)}`}
            </li>
          ))}
          {account.consents.map((c) => (
            <li key={c.id}>
              Guardian’s consent for {c.machineIds.length === 0 ? 'all machines' : c.machineIds.join(', ')}
              {c.until && ` to ${time.date(Date.parse(c.until) - 1)}`}
            </li>
          ))}
        </ul>
      </section>
      <Agreeing />
      <Password />
      <PhoneCode />
      <TapInCode />
      <SignIns />
      <section className="sheetgroup">
        <RunOn title="What the house holds about you" />
        <p className="mt-2">
          Everything, as one JSON file: account, roles, consents, certificates, bookings, runs, requests, messages and
          texts. To have it erased, ask a keeper; house rules and the law say what has to stay for how long.
        </p>
        <a className="btn btn-outline-primary" href="/api/me/data" download>
          Download my data
        </a>
      </section>
    </>
  )
}

function Password() {
  const [current, setCurrent] = useState('')
  const [password, setPassword] = useState('')
  const change = useMutation({
    mutationFn: () => answer(client.PUT('/api/me/password', { body: { current, password } })),
  })
  const errors = fieldErrors(change.error)
  return (
    <section className="sheetgroup">
      <RunOn title="Password" />
      <Form
        noValidate
        aria-label="Password"
        className="inlineform mt-2"
        onSubmit={(event: SubmitEvent) => {
          event.preventDefault()
          change.mutate()
        }}
      >
        <TextField
          id="pw-now"
          label="Current password"
          error={errors.current}
          type="password"
          autoComplete="current-password"
          value={current}
          put={setCurrent}
        />
        <TextField
          id="pw-new"
          label="New, at least 10 characters"
          error={errors.password}
          type="password"
          autoComplete="new-password"
          value={password}
          put={setPassword}
        />
        <Button type="submit" variant="outline-primary" className="mb-2" disabled={change.isPending}>
          Change the password
        </Button>
        {change.isSuccess && (
          <p className="full" role="status">
            Changed. You are signed out everywhere: sign in again.
          </p>
        )}
        {change.isError && Object.keys(errors).length === 0 && <Failure error={change.error} />}
      </Form>
    </section>
  )
}
