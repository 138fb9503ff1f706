import { useState } from 'react'
import { Act, useAction } from '../kit/Act'
import { answer, client, type Schemas } from '../kit/api'
import { fieldErrors, RunOn, TextField } from '../kit/parts'
import { hasRole, useSession } from '../kit/session'

/** Machines that somebody told of fire or smoke at, without a name: one look each before the next start. */
export function Looks({ looks }: { looks: Schemas['LookAskedResponse'][] }) {
  const { me } = useSession()
  if (looks.length === 0) return null
  return (
    <section className="mb-4">
      <RunOn title="Look before the next start" after={looks.length} />
      {looks.map((look) => (
        <Look key={look.machineId} look={look} mayLook={hasRole(me, 'steward')} />
      ))}
    </section>
  )
}

function Look({ look, mayLook }: { look: Schemas['LookAskedResponse']; mayLook: boolean }) {
  const [reason, setReason] = useState('')
  const looked = useAction(() =>
    answer(client.POST('/api/machines/{id}/looked', { params: { path: { id: look.machineId } }, body: { reason } })),
  )
  return (
    <div data-look={look.machineId}>
      <p className="mb-1">
        Somebody told of fire or smoke at <b>{look.name}</b>, without a name: bed, lens, filter, duct.
      </p>
      {mayLook && (
        <Act act={looked} button="I have looked" fields={['reason']}>
          <TextField
            id={`look-${look.machineId}`}
            label="What you found"
            value={reason}
            put={setReason}
            error={fieldErrors(looked.error).reason}
          />
        </Act>
      )}
    </div>
  )
}
