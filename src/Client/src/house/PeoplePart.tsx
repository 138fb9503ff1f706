import { useAction } from '../kit/Act'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState, type SubmitEvent } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { useSearchParams } from 'react-router'
import { answer, client, type Schemas } from '../kit/api'
import { Failure, Field, fieldErrors, RunOn, TextField } from '../kit/parts'
import { peopleQuery } from '../kit/session'
import { Account, Invite } from '../people'

/** Accounts: one by one, or from a file; each opens into roles, consents and ends. */
export function PeoplePart() {
  const people = useQuery(peopleQuery)
  const [params, setParams] = useSearchParams()
  const [find, setFind] = useState('')
  const shown = (people.data ?? []).filter((p) => p.name.toLowerCase().includes(find.trim().toLowerCase()))
  const chosen = params.get('person')
  return (
    <>
      <section>
        <RunOn title="Accounts" after={people.data?.length} />
        <div className="two mt-2">
          <div>
            <Form.Control
              data-find
              type="search"
              aria-label="Find a person"
              placeholder="Find a person  /"
              value={find}
              onChange={(e) => setFind(e.target.value)}
            />
            <ul className="plainlist accountlist" tabIndex={0} aria-label="Accounts">
              {shown.map((p) => (
                <li key={p.id}>
                  <button
                    type="button"
                    className="quietlink"
                    aria-pressed={p.id === chosen}
                    onClick={() => setParams({ person: p.id }, { replace: true })}
                  >
                    {p.name}
                  </button>{' '}
                  <span className="quiet small">
                    {p.roles
                      ?.filter((r) => r !== 'member')
                      .join(', ')
                      .replaceAll(':', ' on ')}
                  </span>
                </li>
              ))}
            </ul>
          </div>
          <div>
            {chosen ? (
              <Account key={chosen} id={chosen} />
            ) : (
              <p className="quiet">Choose a person to see roles, consents and the end of the account.</p>
            )}
          </div>
        </div>
      </section>
      <AddPerson />
      <FromFile />
    </>
  )
}

const text = [
  ['givenName', 'Given name', 'text'],
  ['familyName', 'Family name', 'text'],
  ['email', 'Email (may stay empty)', 'email'],
  ['birthDate', 'Birth date (or a band)', 'date'],
] as const
const after = [
  ['signInName', 'Sign-in name (may stay empty)', 'text'],
  ['accountEnds', 'Account’s last day (guests)', 'date'],
] as const

function AddPerson() {
  const [person, setPerson] = useState<Schemas['PersonRequest']>({})
  const add = useAction(
    () => answer(client.POST('/api/people', { body: person })),
    () => setPerson({}),
  )
  const errors = fieldErrors(add.error)
  const field = ([key, label, type]: readonly [keyof Schemas['PersonRequest'], string, string]) => (
    <TextField
      key={key}
      id={`person-${key}`}
      label={label}
      error={errors[key]}
      type={type === 'email' ? 'text' : type}
      value={person[key] ?? ''}
      put={(value) => setPerson({ ...person, [key]: value })}
    />
  )
  return (
    <section className="sheetgroup">
      <RunOn title="Add a person" />
      <Form
        noValidate
        aria-label="Add a person"
        onSubmit={(event: SubmitEvent) => {
          event.preventDefault()
          add.mutate()
        }}
      >
        <div className="inlineform mt-2">
          {text.map(field)}
          <Field id="person-ageBand" label="Age band" error={errors.ageBand}>
            <Form.Select
              id="person-ageBand"
              value={person.ageBand ?? ''}
              isInvalid={!!errors.ageBand}
              onChange={(e) => setPerson({ ...person, ageBand: e.target.value })}
            >
              <option value="">by birth date, or adult</option>
              <option value="under11">under 11</option>
              <option value="11to13">11 to 13</option>
              <option value="14to15">14 to 15</option>
              <option value="16to17">16 to 17</option>
              <option value="adult">adult</option>
            </Form.Select>
          </Field>
          {after.map(field)}
        </div>
        {add.isError && Object.keys(errors).length === 0 && <Failure error={add.error} />}
        <Button type="submit" disabled={add.isPending}>
          Add the person
        </Button>{' '}
        {add.isSuccess && <span role="status">Added.</span>}
        {add.data?.invite && <Invite made={add.data.invite} name="the new person" />}
      </Form>
    </section>
  )
}

function FromFile() {
  const [csv, setCsv] = useState('')
  const queries = useQueryClient()
  const run = useMutation({
    mutationFn: (dryRun: boolean) => answer(client.POST('/api/people/import', { body: { csv, dryRun } })),
    onSuccess: (done) => (done.stored ? queries.invalidateQueries({ queryKey: ['live'] }) : undefined),
  })
  const wrong = run.data?.rows.filter((r) => r.state === 'wrong') ?? []
  const known = run.data?.rows.filter((r) => r.state === 'known').length ?? 0
  return (
    <section className="sheetgroup">
      <RunOn title="People from a file" />
      <p className="small quiet mt-2">
        CSV in UTF-8. The first line names the columns: given name, family name, birth date, age band, email, sign-in
        name, account ends. Nothing is saved before you have seen every row.
      </p>
      <Field id="csv-file" label="File" error={fieldErrors(run.error).file}>
        <Form.Control
          type="file"
          id="csv-file"
          accept=".csv,text/csv"
          onChange={(e) => {
            const file = (e.target as HTMLInputElement).files?.[0]
            void (file?.text() ?? Promise.resolve('')).then((text) => {
              setCsv(text)
              run.reset()
            })
          }}
        />
      </Field>
      {run.isError && !fieldErrors(run.error).file && <Failure error={run.error} />}
      <div className="d-flex gap-2">
        <Button variant="outline-primary" disabled={!csv || run.isPending} onClick={() => run.mutate(true)}>
          Check without saving
        </Button>
        {run.data && !run.data.stored && wrong.length === 0 && run.data.added > 0 && (
          <Button disabled={run.isPending} onClick={() => run.mutate(false)}>
            Add {run.data.added} people
          </Button>
        )}
      </div>
      {run.data && (
        <div role="status">
          <p className="mt-2">
            {run.data.stored
              ? `Added ${run.data.added}.`
              : `${run.data.added} new, ${known} here already, ${wrong.length} wrong. Nothing is saved yet.`}
          </p>
          <table className="plain">
            <tbody>
              {run.data.rows.slice(0, 200).map((r) => (
                <tr key={r.line}>
                  <td className="r">{r.line}</td>
                  <td>{r.name}</td>
                  <td>{r.state}</td>
                  <td>{r.problems.join(' ')}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
    </section>
  )
}
