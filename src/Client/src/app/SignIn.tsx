import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState, type SubmitEvent } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { Link } from 'react-router'
import { answer, ApiError, client, keepToken } from '../kit/api'
import { Failure, fieldErrors, Ticket, TextField } from '../kit/parts'
import { houseQuery } from '../kit/session'
import { Mark } from './Mark'

/** The sign-in page; the demo's names are shown in demo mode only. */
export function SignIn() {
  const house = useQuery(houseQuery)
  const queries = useQueryClient()
  const [name, setName] = useState('')
  const [password, setPassword] = useState('')
  const [code, setCode] = useState('')
  const [shared, setShared] = useState(false)
  const signIn = useMutation({
    mutationFn: (body: { name: string; password: string; shared?: boolean; code?: string }) =>
      answer(client.POST('/api/sign-in', { body })),
    onSuccess: async (made) => {
      keepToken(made.antiforgeryHeader, made.antiforgeryToken)
      await queries.resetQueries({ queryKey: ['me'] })
    },
  })
  const errors = fieldErrors(signIn.error)
  const refused = signIn.error instanceof ApiError ? signIn.error.problem : undefined
  const asksCode = refused?.code === 'signIn.secondFactor' ? [refused.detail ?? ''] : undefined
  const [codeAsked, setCodeAsked] = useState(false)
  if (asksCode && !codeAsked) setCodeAsked(true)
  const submit = (event: SubmitEvent) => {
    event.preventDefault()
    signIn.mutate({ name, password, shared, code: codeAsked ? code : undefined })
  }
  return (
    <main className="door">
      <div className="doorhead">
        <Mark width={96} />
        <div>
          <h1>Velvet Gate</h1>
          <p className="quiet">{house.data ? house.data.name : house.isError ? 'The server does not answer' : ' '}</p>
        </div>
      </div>
      <p className="doorways">
        <a className="btn btn-danger" href="/emergency">
          Emergency
        </a>
        <a href="/near-miss">Tell a near miss, without a name</a>
      </p>
      <Ticket label="Sign in">
        <h2>Sign in</h2>
        <p className="small">
          With a code on paper: <Link to="/invite">set a password</Link>.
        </p>
        <Form onSubmit={submit} noValidate>
          <TextField
            label="Name"
            id="name"
            error={errors.name}
            autoComplete="username"
            autoFocus
            value={name}
            put={setName}
          />
          <TextField
            label="Password"
            id="password"
            error={errors.password}
            type="password"
            autoComplete="current-password"
            value={password}
            put={setPassword}
          />
          {codeAsked && (
            <TextField
              label="Code from your phone"
              id="code"
              error={asksCode}
              inputMode="numeric"
              autoComplete="one-time-code"
              autoFocus
              value={code}
              put={setCode}
            />
          )}
          <Form.Check
            className="mb-3"
            id="shared"
            label="Others use this device too: sign me out after half an hour without use"
            checked={shared}
            onChange={(e) => setShared(e.target.checked)}
          />
          {signIn.isError && !asksCode && !Object.keys(errors).length && <Failure error={signIn.error} />}
          <Button type="submit" disabled={signIn.isPending}>
            Sign in
          </Button>
        </Form>
        {house.data?.demo && (
          <>
            <hr className="dash" />
            <p className="small quiet">A demo house: all of it is invented. Sign in as</p>
            <div className="demonames">
              {house.data.demoSignIns?.map((who) => (
                <Button
                  key={who}
                  variant="outline-primary"
                  size="sm"
                  onClick={() => {
                    const known = house.data.demoPassword ?? ''
                    setName(who)
                    setPassword(known)
                    signIn.mutate({ name: who, password: known })
                  }}
                >
                  {who}
                </Button>
              ))}
            </div>
            <p className="small quiet mb-0">The password is “{house.data.demoPassword}”.</p>
          </>
        )}
      </Ticket>
      <p className="small quiet">
        Velvet Gate supports judgement; it does not replace your local code, the maker’s manual, a laser safety officer
        or a fire officer.
      </p>
    </main>
  )
}
