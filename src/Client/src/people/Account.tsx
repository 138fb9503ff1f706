import { useAction } from '../kit/Act'
import { useQuery } from '@tanstack/react-query'
import { useState, type SubmitEvent } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { answer, client, type Schemas } from '../kit/api'
import { Failure, fieldErrors, Loading, SelectField, TextField, Ticket } from '../kit/parts'
import { useMachines, useSession } from '../kit/session'
import { Closing } from './Closing'

type AccountAnswer = Schemas['Account']

/** One account: roles, consents, its end. */
export function Account({ id }: { id: string }) {
  const account = useQuery({
    queryKey: ['live', 'account', id],
    queryFn: ({ signal }) => answer(client.GET('/api/people/{id}/account', { params: { path: { id } }, signal })),
  })
  const { me } = useSession()
  if (account.isPending) return <Loading what="the account" />
  if (!account.data) return <Failure error={account.error} />
  const a = account.data
  return (
    <Ticket label={`${a.givenName} ${a.familyName}`}>
      <h2>
        {a.givenName} {a.familyName}
      </h2>
      <p className="small quiet">
        {a.ageBand ? `Age band ${a.ageBand.replace('to', ' to ')}` : a.birthDate ? `Born ${a.birthDate}` : 'An adult'}
        {a.email && `, ${a.email}`}
        {a.signInName ? `, signs in as ${a.signInName}` : ', never signs in'}.{' '}
        {a.agreementSince ? 'House agreement signed.' : 'House agreement not signed yet.'}
      </p>
      {a.secondFactorSince && me.memberId !== id && <TakeOffPhoneCode account={a} />}
      <Roles account={a} mine={me.memberId === id} />
      <Consents account={a} />
      <Closing account={a} mine={me.memberId === id} />
    </Ticket>
  )
}

/** For somebody who lost phone and paper. */
function TakeOffPhoneCode({ account }: { account: AccountAnswer }) {
  const off = useAction(() =>
    answer(client.DELETE('/api/people/{id}/second-factor', { params: { path: { id: account.id } } })),
  )
  return (
    <p className="small">
      Signs in with a code from a phone.{' '}
      <button type="button" className="quietlink" disabled={off.isPending} onClick={() => off.mutate(undefined)}>
        Take it off: phone and spare codes are lost
      </button>
      <Failure error={off.error} />
    </p>
  )
}

function Roles({ account, mine }: { account: AccountAnswer; mine: boolean }) {
  const machines = useMachines()
  const { time } = useSession()
  const [role, setRole] = useState(mine ? 'founding' : 'steward')
  const [machineId, setMachine] = useState('')
  const give = useAction(() =>
    answer(
      client.POST('/api/people/{id}/roles', {
        params: { path: { id: account.id } },
        body: { role, machineId: role === 'repair' ? machineId : undefined },
      }),
    ),
  )
  const end = useAction((rowId: number) =>
    answer(client.POST('/api/roles/{id}/end', { params: { path: { id: rowId } } })),
  )
  const [evidence, setEvidence] = useState('')
  const found = useAction(
    () => answer(client.POST('/api/founding-sign-offs', { body: { personId: account.id, machineId, evidence } })),
    () => setEvidence(''),
  )
  const founding = role === 'founding'
  const act = founding ? found : give
  const errors = fieldErrors(act.error)
  return (
    <>
      <hr className="dash" />
      <h3>Roles</h3>
      <ul className="plainlist">
        {account.roles.map((r) => (
          <li key={r.rowId}>
            {r.role}
            {r.machineId && ` on ${machines.data?.find((m) => m.id === r.machineId)?.name ?? r.machineId}`}
            {r.until && `, to ${time.date(Date.parse(r.until) - 1)}`}{' '}
            {!mine && (
              <button type="button" className="quietlink" onClick={() => end.mutate(r.rowId)}>
                End
              </button>
            )}
          </li>
        ))}
      </ul>
      <Failure error={end.error} />
      <Form
        noValidate
        aria-label="Give a role"
        onSubmit={(event: SubmitEvent) => {
          event.preventDefault()
          act.mutate(undefined)
        }}
      >
        <SelectField
          id="role"
          label="Give"
          value={role}
          put={setRole}
          options={[
            ...(mine
              ? []
              : ([
                  ['steward', 'steward'],
                  ['countersigner', 'countersigner'],
                  ['keeper', 'keeper'],
                  ['member', 'member'],
                  ['repair', 'repair on a machine'],
                ] as const)),
            ['founding', 'founding sign-off on a machine without trainers'],
          ]}
          error={errors.role ?? errors.personId}
        />
        {(founding || role === 'repair') && (
          <SelectField
            id="role-machine"
            label="On"
            value={machineId}
            put={setMachine}
            options={[['', 'choose a machine'], ...(machines.data ?? []).map((m) => [m.id, m.name] as const)]}
            error={errors.machineId}
          />
        )}
        {founding && (
          <TextField
            id="role-evidence"
            label="What it rests on"
            error={errors.evidence}
            rows={2}
            value={evidence}
            put={setEvidence}
          />
        )}
        {act.isError && Object.keys(errors).length === 0 && <Failure error={act.error} />}
        <Button type="submit" size="sm" disabled={act.isPending}>
          {founding ? 'Save the founding sign-off' : 'Give the role'}
        </Button>
      </Form>
    </>
  )
}

function Consents({ account }: { account: AccountAnswer }) {
  const machines = useMachines()
  const { time } = useSession()
  const [text, setText] = useState('')
  const [lastDay, setLastDay] = useState('')
  const [only, setOnly] = useState('')
  const add = useAction(
    () =>
      answer(
        client.POST('/api/people/{id}/consents', {
          params: { path: { id: account.id } },
          body: { text, lastDay, machineIds: only ? [only] : [] },
        }),
      ),
    () => setText(''),
  )
  const end = useAction((id: string) => answer(client.POST('/api/consents/{id}/end', { params: { path: { id } } })))
  const errors = fieldErrors(add.error)
  if (!account.birthDate && account.consents.length === 0) return null
  return (
    <>
      <hr className="dash" />
      <h3>Guardian’s consent</h3>
      <ul className="plainlist">
        {account.consents.map((c) => (
          <li key={c.id}>
            {c.machineIds.length === 0
              ? 'All machines'
              : c.machineIds.map((m) => machines.data?.find((x) => x.id === m)?.name ?? m).join(', ')}
            , from {time.date(c.since)}
            {c.until && ` to ${time.date(Date.parse(c.until) - 1)}`}. {c.text}{' '}
            <button type="button" className="quietlink" onClick={() => end.mutate(c.id)}>
              Withdrawn
            </button>
          </li>
        ))}
      </ul>
      <Form
        noValidate
        aria-label="Consent"
        onSubmit={(event: SubmitEvent) => {
          event.preventDefault()
          add.mutate(undefined)
        }}
      >
        <TextField id="consent-text" label="Who gave it, and how" error={errors.text} value={text} put={setText} />
        <div className="inlineform">
          <SelectField
            id="consent-machine"
            label="For"
            value={only}
            put={setOnly}
            options={[['', 'all machines'], ...(machines.data ?? []).map((m) => [m.id, `${m.name} only`] as const)]}
            error={errors.machineIds}
          />
          <TextField
            id="consent-day"
            label="Last day (may stay empty)"
            error={errors.lastDay}
            type="date"
            value={lastDay}
            put={setLastDay}
          />
        </div>
        {add.isError && Object.keys(errors).length === 0 && <Failure error={add.error} />}
        <Button type="submit" size="sm" disabled={add.isPending}>
          Save the consent
        </Button>
      </Form>
    </>
  )
}
