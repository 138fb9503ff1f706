import { useMutation } from '@tanstack/react-query'
import { useState, type SubmitEvent } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { useNavigate, useParams } from 'react-router'
import { answer, client } from '../kit/api'
import { Failure, fieldErrors, TextField, Ticket } from '../kit/parts'

/** Whoever has the link or the code sets their own password. */
export function InvitePage() {
  const { code: given = '' } = useParams()
  const navigate = useNavigate()
  const [code, setCode] = useState(given)
  const [password, setPassword] = useState('')
  const set = useMutation({
    mutationFn: () =>
      answer(client.POST('/api/invites/{code}', { params: { path: { code: code.trim() } }, body: { password } })),
  })
  const errors = fieldErrors(set.error)
  return (
    <main className="door">
      <Ticket label="Set a password">
        <h1>Set a password</h1>
        {set.isSuccess ? (
          <>
            <p role="status">Done. The link is used up, and you are signed out everywhere else.</p>
            <Button onClick={() => void navigate('/')}>Sign in</Button>
          </>
        ) : (
          <Form
            noValidate
            aria-label="Set a password"
            onSubmit={(event: SubmitEvent) => {
              event.preventDefault()
              set.mutate()
            }}
          >
            <TextField id="invite-code" label="Code from your keeper" error={errors.code} value={code} put={setCode} />
            <TextField
              id="invite-password"
              label="Your password, at least 10 characters"
              error={errors.password}
              type="password"
              autoComplete="new-password"
              value={password}
              put={setPassword}
            />
            {set.isError && Object.keys(errors).length === 0 && <Failure error={set.error} />}
            <Button type="submit" disabled={set.isPending || !code.trim()}>
              Set the password
            </Button>
          </Form>
        )}
      </Ticket>
    </main>
  )
}
