import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import { answer, client, type Schemas } from '../kit/api'
import { Failure, fieldErrors, Loading, TextField } from '../kit/parts'
import { useSession } from '../kit/session'
import { useAction } from '../kit/Act'
import { Invite } from './Invite'

/** The end of an account: its last day, a legal hold, a link for a new password, and erasing by rule. */
export function Closing({ account, mine }: { account: Schemas['Account']; mine: boolean }) {
  const { time } = useSession()
  const path = { path: { id: account.id } }
  const [lastDay, setLastDay] = useState('')
  const [reason, setReason] = useState('')
  const [sure, setSure] = useState(false)
  const end = useAction(() => answer(client.PUT('/api/people/{id}/end', { params: path, body: { lastDay } })))
  const hold = useAction(
    () =>
      answer(client.POST('/api/people/{id}/legal-hold', { params: path, body: { hold: !account.legalHold, reason } })),
    () => setReason(''),
  )
  const renew = useAction(() => answer(client.POST('/api/people/{id}/invite', { params: path })))
  const unlock = useAction(() => answer(client.POST('/api/people/{id}/unlock', { params: path })))
  const erase = useAction(() => answer(client.POST('/api/people/{id}/erase', { params: path })))
  if (mine) return null
  return (
    <>
      <hr className="dash" />
      <h3>End of the account</h3>
      <p>{account.ends ? `Its last day is ${time.date(Date.parse(account.ends) - 1)}.` : 'No last day is set.'}</p>
      <div className="inlineform">
        <TextField
          id="end-day"
          label="Last day (empty: no end)"
          error={fieldErrors(end.error).lastDay}
          type="date"
          value={lastDay}
          put={setLastDay}
        />
        <Button size="sm" variant="outline-primary" className="mb-2" onClick={() => end.mutate(undefined)}>
          Set the last day
        </Button>
        {account.signInName && (
          <>
            <Button size="sm" variant="outline-primary" className="mb-2" onClick={() => renew.mutate(undefined)}>
              Make a link for a new password
            </Button>
            <Button size="sm" variant="outline-primary" className="mb-2" onClick={() => unlock.mutate(undefined)}>
              Unlock after failed tries
            </Button>
          </>
        )}
        <TextField
          id="hold-reason"
          label={account.legalHold ? 'Why the legal hold ends' : 'Legal hold: why'}
          error={fieldErrors(hold.error).reason}
          value={reason}
          put={setReason}
        />
        <Button size="sm" variant="outline-primary" className="mb-2" onClick={() => hold.mutate(undefined)}>
          {account.legalHold ? 'End the legal hold' : 'Set a legal hold'}
        </Button>
      </div>
      {renew.data && <Invite made={renew.data} name={account.givenName} />}
      {unlock.isSuccess && <p role="status">Unlocked: they may try again at once.</p>}
      <Failure error={renew.error ?? unlock.error} />
      <p className="small quiet">
        Erasing removes name, dates, contacts, texts about them, messages, drawings and where they bought their stock;
        bookings, sign-offs and the record stay without them. House rules, a legal hold, or things they still own can
        stop it.
      </p>
      <Failure error={erase.error} />
      {sure && <Mentions id={account.id} />}
      {sure ? (
        <>
          <Button size="sm" variant="danger" onClick={() => erase.mutate(undefined)} disabled={erase.isPending}>
            Erase for good
          </Button>{' '}
          <button type="button" className="quietlink" onClick={() => setSure(false)}>
            Keep
          </button>
        </>
      ) : (
        <button type="button" className="quietlink" onClick={() => setSure(true)}>
          Erase this person
        </button>
      )}
    </>
  )
}

/** What erasing leaves: free texts that may name this person, and files they put up, for a keeper to read. */
function Mentions({ id }: { id: string }) {
  const found = useQuery({
    queryKey: ['live', 'mentions', id],
    queryFn: ({ signal }) => answer(client.GET('/api/people/{id}/mentions', { params: { path: { id } }, signal })),
  })
  const erase = useAction((text: string) =>
    answer(client.DELETE('/api/texts/{id}', { params: { path: { id: text } } })),
  )
  if (found.isPending) return <Loading what="what would stay" />
  if (!found.data) return <Failure error={found.error} />
  if (found.data.items.length === 0) return <p>No other text names this person.</p>
  return (
    <>
      <h4>What stays, unless you erase it by itself</h4>
      <ul className="plainlist">
        {found.data.items.map((m) => (
          <li key={m.text ?? `${m.what} ${m.body}`}>
            <span className="quiet">{m.what}:</span> {m.body}{' '}
            {m.text && (
              <button
                type="button"
                className="quietlink"
                disabled={erase.isPending}
                onClick={() => erase.mutate(m.text!)}
              >
                Erase this text
              </button>
            )}
          </li>
        ))}
      </ul>
      <Failure error={erase.error} />
    </>
  )
}
