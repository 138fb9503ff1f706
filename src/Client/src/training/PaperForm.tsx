import { useState } from 'react'
import { Act, Fold, useAction } from '../kit/Act'
import { answer, client, type Schemas } from '../kit/api'
import { fieldErrors, SelectField, TextField } from '../kit/parts'

/** A sign-off of before this house kept its records here. */
export function PaperForm({ person, paths }: { person: Schemas['PersonResponse']; paths: Schemas['PathResponse'][] }) {
  const [authority, setAuthority] = useState(paths[0]?.authority ?? '')
  const [signedOn, setSignedOn] = useState('')
  const [evidence, setEvidence] = useState('')
  const enter = useAction(
    () => answer(client.POST('/api/paper-sign-offs', { body: { memberId: person.id, authority, signedOn, evidence } })),
    () => setEvidence(''),
  )
  const errors = fieldErrors(enter.error)
  return (
    <Fold title="Enter an earlier paper">
      <Act
        act={enter}
        button="Enter the paper"
        fields={['authority', 'signedOn', 'evidence']}
        done={enter.data && 'Entered, and marked as from paper.'}
      >
        <SelectField
          id="paper-authority"
          label="For"
          value={authority}
          put={setAuthority}
          options={paths.map((p) => [p.authority, p.name] as const)}
          error={errors.authority}
        />
        <TextField
          id="paper-day"
          label="Day on the paper"
          type="date"
          value={signedOn}
          put={setSignedOn}
          error={errors.signedOn}
        />
        <TextField
          id="paper-evidence"
          label="What it is, who signed it, where it lies"
          rows={2}
          value={evidence}
          put={setEvidence}
          error={errors.evidence}
        />
      </Act>
    </Fold>
  )
}
