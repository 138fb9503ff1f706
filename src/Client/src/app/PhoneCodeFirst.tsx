import { useMutation } from '@tanstack/react-query'
import Button from 'react-bootstrap/Button'
import { StopMachines } from '../house'
import { PhoneCode } from '../people'
import { answer, client } from '../kit/api'

/** All that is open to somebody whose role asks for a code, until it is set up; a machine is stopped at any time. */
export function PhoneCodeFirst() {
  const signOut = useMutation({
    mutationFn: () => answer(client.POST('/api/sign-out')),
    onSuccess: () => window.location.assign('/'),
  })
  return (
    <main className="door">
      <h1>First, a code from your phone</h1>
      <p>This house asks it of your role at sign-in. It takes a minute, and then everything is open.</p>
      <PhoneCode />
      <StopMachines />
      <Button variant="outline-primary" onClick={() => signOut.mutate()}>
        Sign out
      </Button>
    </main>
  )
}
