import { useMutation, useQuery } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import Button from 'react-bootstrap/Button'
import { answer, client } from '../kit/api'
import { usePress } from '../kit/Act'
import { Failure, fieldErrors, RunOn, TextField } from '../kit/parts'
import { useSession } from '../kit/session'

/** How one is known at a machine: one's own fobs, and a code for whoever has none at hand. */
export function TapInCode() {
  const { time } = useSession()
  const fobs = useQuery({
    queryKey: ['live', 'fobs'],
    queryFn: ({ signal }) => answer(client.GET('/api/fobs', { signal })),
  })
  const { me } = useSession()
  const mine = fobs.data?.items.filter((f) => f.personId === me.memberId) ?? []
  const revoke = usePress((id: string) => answer(client.DELETE('/api/fobs/{id}', { params: { path: { id } } })))
  if (!fobs.data?.on) return null
  return (
    <section className="sheetgroup">
      <RunOn title="At a machine" />
      <ul className="plainlist mt-2">
        {mine.map((f) => (
          <li key={f.id}>
            Your fob: {f.looks}, since {time.date(f.learntAt)}{' '}
            <button
              type="button"
              className="quietlink"
              aria-label={`I lost it: revoke it, ${f.looks}`}
              disabled={revoke.isPending}
              onClick={() => revoke.mutate(f.id)}
            >
              I lost it: revoke it
            </button>
          </li>
        ))}
      </ul>
      <Failure error={revoke.error} />
      <p>
        On this phone you tap in at the machine’s own page. On a screen that stands at a machine, tap in with your fob,
        or with a code:
      </p>
      <Code />
      {fobs.data.pinAsked && <Pin since={fobs.data.pinSetAt} />}
    </section>
  )
}

function Pin({ since }: { since?: string | null }) {
  const { time } = useSession()
  const [pin, setPin] = useState('')
  const set = usePress((body: { pin: string }) => answer(client.PUT('/api/me/pin', { body })))
  const own = fieldErrors(set.error)['pin']
  return (
    <form
      className="mt-3"
      onSubmit={(event) => {
        event.preventDefault()
        set.mutate({ pin }, { onSuccess: () => setPin('') })
      }}
    >
      <p>
        This house asks for a PIN beside the fob.{' '}
        {since ? `Yours is set since ${time.date(since)}.` : 'You have none yet: your fob begins nothing.'}
      </p>
      <TextField
        id="pin"
        label="Your PIN: figures alone"
        type="password"
        inputMode="numeric"
        autoComplete="new-password"
        value={pin}
        put={setPin}
        error={own}
      />
      {!own && <Failure error={set.error} />}
      <Button type="submit" variant="outline-primary" disabled={set.isPending || pin === ''}>
        Set my PIN
      </Button>
    </form>
  )
}

function Code() {
  const { now } = useSession()
  const show = useMutation({ mutationFn: () => answer(client.POST('/api/me/tap-in-code')) })
  const [at, setAt] = useState(now)
  useEffect(() => {
    const timer = setInterval(() => setAt(now()), 500)
    return () => clearInterval(timer)
  }, [now])
  const left = show.data ? Math.ceil((Date.parse(show.data.until) - at) / 1000) : 0
  return (
    <>
      <Failure error={show.error} />
      <Button variant="outline-primary" disabled={show.isPending} onClick={() => show.mutate()}>
        Show a tap-in code
      </Button>
      {show.data && left > 0 && (
        <p role="status" className="mt-2">
          <b className="bigcode">{show.data.code}</b> good once, for {left} s more
        </p>
      )}
    </>
  )
}
