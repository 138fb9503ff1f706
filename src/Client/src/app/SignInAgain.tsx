import { useState, useSyncExternalStore, type SubmitEvent } from 'react'
import { useMutation } from '@tanstack/react-query'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import Modal from 'react-bootstrap/Modal'
import { again, answer, client } from '../kit/api'
import { Failure, fieldErrors, TextField } from '../kit/parts'

/** Asks for the password once more where an act wants it; what was pressed then goes on by itself. */
export function SignInAgain() {
  const waiting = useSyncExternalStore(again.subscribe, again.waits)
  const [password, setPassword] = useState('')
  const prove = useMutation({
    mutationFn: () => answer(client.POST('/api/me/password/again', { body: { password } })),
    onSuccess: () => {
      setPassword('')
      again.settle(true)
    },
  })
  const errors = fieldErrors(prove.error)
  const leave = () => {
    setPassword('')
    prove.reset()
    again.settle(false)
  }
  return (
    <Modal show={waiting} onHide={leave} centered aria-labelledby="again-title">
      <Form
        noValidate
        className="p-3"
        onSubmit={(event: SubmitEvent) => {
          event.preventDefault()
          prove.mutate()
        }}
      >
        <h2 id="again-title">Give your password again</h2>
        <p className="small">This gives or takes power, or cannot be undone, and you signed in a while ago.</p>
        <TextField
          id="again-password"
          label="Password"
          type="password"
          autoComplete="current-password"
          autoFocus
          error={errors.password}
          value={password}
          put={setPassword}
        />
        {prove.isError && Object.keys(errors).length === 0 && <Failure error={prove.error} />}
        <div className="d-flex gap-2">
          <Button type="submit" disabled={prove.isPending}>
            Go on
          </Button>
          <Button variant="outline-primary" onClick={leave}>
            Cancel
          </Button>
        </div>
      </Form>
    </Modal>
  )
}
