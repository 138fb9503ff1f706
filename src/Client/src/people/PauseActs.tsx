import { useState } from 'react'
import { Act, Fold, useAction } from '../kit/Act'
import { answer, client, type Schemas } from '../kit/api'
import { fieldErrors, TextField } from '../kit/parts'

export function Pause({ person }: { person: Schemas['PersonResponse'] }) {
  const [reason, setReason] = useState('')
  const pause = useAction(() =>
    answer(client.POST('/api/people/{id}/pauses', { params: { path: { id: person.id } }, body: { reason } })),
  )
  return (
    <Fold title="Pause">
      <Act act={pause} button="Pause until released" danger fields={['reason']}>
        <TextField
          id="pause-reason"
          label="Why, for the person and the stewards"
          rows={2}
          value={reason}
          put={setReason}
          error={fieldErrors(pause.error).reason}
        />
      </Act>
    </Fold>
  )
}

export function Release({ pause }: { pause: string }) {
  const [reason, setReason] = useState('')
  const release = useAction(() =>
    answer(client.POST('/api/pauses/{id}/release', { params: { path: { id: pause } }, body: { reason } })),
  )
  return (
    <>
      <hr className="dash" />
      <h3>Release</h3>
      <Act act={release} button="Release" fields={['reason']} done={release.data?.text}>
        <TextField
          id="release-reason"
          label="Why it ends"
          rows={2}
          value={reason}
          put={setReason}
          error={fieldErrors(release.error).reason}
        />
      </Act>
    </>
  )
}
