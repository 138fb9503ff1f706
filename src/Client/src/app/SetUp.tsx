import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState, type SubmitEvent } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { answer, client, keepToken, type Schemas } from '../kit/api'
import { Failure, Field, fieldErrors, Loading, Ticket, TextField } from '../kit/parts'
import { Colours } from '../kit/SheetLists'
import { Mark } from './Mark'

/** An empty house: its name, a pack to start from, and its first keeper. */
export function SetUp() {
  const start = useQuery({
    queryKey: ['set-up'],
    queryFn: ({ signal }) => answer(client.GET('/api/set-up', { signal })),
  })
  return (
    <main className="door wide">
      <div className="doorhead">
        <Mark width={96} />
        <div>
          <h1>Velvet Gate</h1>
          <p className="quiet">A new house</p>
        </div>
      </div>
      {start.isPending && <Loading what="the packs" />}
      <Failure error={start.error} retry={() => void start.refetch()} />
      {start.data?.empty && <Found start={start.data} />}
      {start.data && !start.data.empty && <p>This house has its first keeper. Load the page again to sign in.</p>}
      <p className="small quiet">
        Velvet Gate supports judgement; it does not replace your local code, the maker’s manual, a laser safety officer
        or a fire officer.
      </p>
    </main>
  )
}

const here = () => Intl.DateTimeFormat().resolvedOptions().timeZone

const mine = [
  ['givenName', 'Your given name', 'text', 'given-name'],
  ['familyName', 'Your family name', 'text', 'family-name'],
  ['email', 'Email (may stay empty)', 'text', 'email'],
  ['signInName', 'The name you sign in with', 'text', 'username'],
  ['password', 'Password, at least 10 characters', 'password', 'new-password'],
] as const

function Found({ start }: { start: Schemas['SetUpResponse'] }) {
  const [form, setForm] = useState<Schemas['SetUpRequest']>({
    pack: 'staffedWorkshop',
    zone: start.zones.includes(here()) ? here() : 'Europe/London',
  })
  const [colours, setColours] = useState<Record<string, string>>({})
  const put = (changed: Partial<typeof form>) => setForm({ ...form, ...changed })
  const queries = useQueryClient()
  const found = useMutation({
    mutationFn: async () => {
      await answer(client.POST('/api/set-up', { body: { ...form, colours } }))
      return answer(
        client.POST('/api/sign-in', { body: { name: form.signInName ?? '', password: form.password ?? '' } }),
      )
    },
    onSuccess: async (signed) => {
      keepToken(signed.antiforgeryHeader, signed.antiforgeryToken)
      await queries.resetQueries()
      window.location.assign('/house/machines')
    },
  })
  const errors = fieldErrors(found.error)
  return (
    <Ticket label="Set the house up">
      <h2>Set the house up</h2>
      <Form
        noValidate
        onSubmit={(event: SubmitEvent) => {
          event.preventDefault()
          found.mutate()
        }}
      >
        <TextField
          id="house-code"
          label="The code from the server’s console"
          error={errors.code}
          autoFocus
          autoComplete="off"
          value={form.code ?? ''}
          put={(value) => put({ code: value })}
        />
        <TextField
          id="house-name"
          label="Name of the house"
          error={errors.houseName}
          value={form.houseName ?? ''}
          put={(value) => put({ houseName: value })}
        />
        <Field id="house-zone" label="Time zone" error={errors.zone}>
          <Form.Select
            id="house-zone"
            value={form.zone ?? ''}
            isInvalid={!!errors.zone}
            onChange={(e) => put({ zone: e.target.value })}
          >
            {start.zones.map((z) => (
              <option key={z}>{z}</option>
            ))}
          </Form.Select>
        </Field>
        <fieldset className="mb-2">
          <legend className="form-label">Pack to start from; every value can be changed</legend>
          {start.packs.map((p) => (
            <Form.Check
              key={p.id}
              type="radio"
              name="pack"
              id={`pack-${p.id}`}
              checked={form.pack === p.id}
              onChange={() => put({ pack: p.id })}
              label={
                <>
                  <b>{p.name}</b>: {p.for}
                </>
              }
            />
          ))}
        </fieldset>
        <fieldset className="mb-3" data-field="colours">
          <legend className="form-label">
            What the colours of a drawing mean here. Take those your machines are set to; a colour not named is refused,
            never guessed, and filled shapes engrave.
          </legend>
          <Colours label="Colours of drawings" value={colours} set={setColours} id="house-colours" />
          {errors.colours && <p className="invalid-feedback">{errors.colours.join(' ')}</p>}
        </fieldset>
        <div className="inlineform">
          {mine.map(([key, label, type, complete]) => (
            <TextField
              key={key}
              id={`keeper-${key}`}
              label={label}
              error={errors[key]}
              type={type}
              autoComplete={complete}
              value={form[key] ?? ''}
              put={(value) => put({ [key]: value })}
            />
          ))}
        </div>
        <Form.Check
          className="mb-3"
          id="also-steward"
          label="I am also the steward. Being keeper gives no safety powers by itself."
          checked={form.alsoSteward === true}
          onChange={(e) => put({ alsoSteward: e.target.checked })}
        />
        {found.isError && Object.keys(errors).length === 0 && <Failure error={found.error} />}
        <Button type="submit" disabled={found.isPending}>
          Set up this house
        </Button>
      </Form>
    </Ticket>
  )
}
