import { useState } from 'react'
import { useNavigate } from 'react-router'
import { Act, useAction } from '../kit/Act'
import { answer, client, type Schemas } from '../kit/api'
import { fieldErrors, SelectField, TextField } from '../kit/parts'

/** By the practical sheet where the path ends with one; by a note otherwise, or where the house leaves it to the trainer. */
export function SignOff({ person, paths }: { person: Schemas['PersonResponse']; paths: Schemas['PathResponse'][] }) {
  const [authority, setAuthority] = useState(paths[0]?.authority ?? '')
  const [note, setNote] = useState('')
  const navigate = useNavigate()
  const path = paths.find((p) => p.authority === authority)
  const sheet = path?.steps.at(-1)
  const begin = useAction(
    () => answer(client.POST('/api/practicals', { body: { memberId: person.id, authority } })),
    (made) => void navigate(`/training/practical/${made.id}`),
  )
  const sign = useAction(
    () => answer(client.POST('/api/sign-offs', { body: { memberId: person.id, authority, note } })),
    () => setNote(''),
  )
  const errors = fieldErrors(sign.error)
  if (!path) return null
  return (
    <>
      <hr className="dash" />
      <h3>Sign off</h3>
      <SelectField
        id="authority"
        label="For"
        value={authority}
        put={setAuthority}
        options={paths.map((p) => [p.authority, p.name] as const)}
      />
      {sheet?.id && (
        <Act act={begin} button={`Watch them: ${sheet.title}`} fields={[]}>
          {null}
        </Act>
      )}
      <details className="fold mt-2" open={!sheet?.id || undefined}>
        <summary>By a note alone</summary>
        <Act
          act={sign}
          button={`Sign off for ${path.name}`}
          fields={['note']}
          done={
            sign.data &&
            `Signed off for ${path.name}.${sign.data.open.length > 0 ? ` Left open on the path: ${sign.data.open.join('; ')}.` : ''}`
          }
        >
          <TextField id="signoff-note" label="What you saw" rows={3} value={note} put={setNote} error={errors.note} />
        </Act>
      </details>
    </>
  )
}
