import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState, type SubmitEvent } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { answer, client } from '../kit/api'
import { Failure, fieldErrors, Loading, RunOn, TextField } from '../kit/parts'
import { useSession } from '../kit/session'

/** A code from a phone at sign-in: set up, confirmed by a first code, taken off. */
export function PhoneCode() {
  const { me, time } = useSession()
  const queries = useQueryClient()
  const [code, setCode] = useState('')
  const mine = useQuery({
    queryKey: ['second-factor'],
    queryFn: ({ signal }) => answer(client.GET('/api/me/second-factor', { signal })),
  })
  const settled = () => queries.invalidateQueries({ queryKey: ['second-factor'] })
  const begin = useMutation({ mutationFn: () => answer(client.POST('/api/me/second-factor')) })
  const confirm = useMutation({
    mutationFn: () => answer(client.POST('/api/me/second-factor/confirm', { body: { code } })),
    onSuccess: () => {
      setCode('')
      begin.reset()
      return settled()
    },
  })
  const remove = useMutation({
    mutationFn: () => answer(client.DELETE('/api/me/second-factor')),
    onSuccess: async () => {
      confirm.reset()
      await settled()
      await queries.invalidateQueries({ queryKey: ['me'] })
    },
  })
  const errors = fieldErrors(confirm.error)
  return (
    <section className="sheetgroup">
      <RunOn
        title="A code from your phone"
        after={mine.data ? (mine.data.since ? `since ${time.date(mine.data.since)}` : 'not set up') : undefined}
      />
      {mine.isPending && <Loading what="whether one is set up" />}
      <Failure error={mine.error ?? begin.error ?? remove.error} />
      <p className="mt-2">
        As well as your password, six digits that your phone shows and that change every half minute: who learns your
        password still stays out. Any app for such codes will do, and it works without a network.
      </p>
      {confirm.data && (
        <div role="status">
          <p>
            <b>It is set up.</b> Write these codes on paper and keep them away from the phone: each lets you in once, if
            the phone is lost. They are shown this one time.
          </p>
          <ul className="sparecodes">
            {confirm.data.codes.map((spare) => (
              <li key={spare}>{spare}</li>
            ))}
          </ul>
          {me.factorOwed && (
            <Button onClick={() => void queries.resetQueries({ queryKey: ['me'] })}>I have written them down</Button>
          )}
        </div>
      )}
      {mine.data && !mine.data.since && !begin.data && (
        <Button variant="outline-primary" disabled={begin.isPending} onClick={() => begin.mutate()}>
          Set it up
        </Button>
      )}
      {begin.data && (
        <Form
          noValidate
          aria-label="A code from your phone"
          onSubmit={(event: SubmitEvent) => {
            event.preventDefault()
            confirm.mutate()
          }}
        >
          <p>
            Read this with the app, or type <b className="codes">{begin.data.secret.replace(/(.{4})/g, '$1 ')}</b> into
            it. Then type the six digits it shows.
          </p>
          <img src={begin.data.picture} alt="The same as the letters beside it, for the phone’s camera" width="200" />
          <TextField
            id="phone-code"
            label="Six digits"
            error={errors.code}
            inputMode="numeric"
            autoComplete="one-time-code"
            value={code}
            put={setCode}
          />
          {confirm.isError && Object.keys(errors).length === 0 && <Failure error={confirm.error} />}
          <Button type="submit" disabled={confirm.isPending}>
            Confirm it
          </Button>
        </Form>
      )}
      {mine.data?.since && !me.factorOwed && (
        <p className="small">
          {mine.data.spare} spare codes are left.{' '}
          <button type="button" className="quietlink" disabled={remove.isPending} onClick={() => remove.mutate()}>
            Take it off
          </button>
          {', for another phone or for new spare codes.'}
        </p>
      )}
    </section>
  )
}
