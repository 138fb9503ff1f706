import { usePress } from '../kit/Act'
import { useQuery } from '@tanstack/react-query'
import Button from 'react-bootstrap/Button'
import { answer, client } from '../kit/api'
import { Failure, RunOn } from '../kit/parts'
import { hasRole, useSession } from '../kit/session'

/** Links to set a keeper's or steward's password wait here for a second pair of eyes. */
export function Agreeing() {
  const { me, time } = useSession()
  const may = hasRole(me, 'keeper', 'countersigner')
  const waiting = useQuery({
    queryKey: ['live', 'invites'],
    queryFn: async ({ signal }) => (await answer(client.GET('/api/invites', { signal }))).items,
    enabled: may,
  })
  const agree = usePress((id: string) => answer(client.POST('/api/invites/{id}/agree', { params: { path: { id } } })))
  if (!may || !waiting.data || waiting.data.length === 0) return null
  return (
    <section>
      <RunOn title="Links that wait for a second pair of eyes" after={waiting.data.length} />
      <ul className="plainlist">
        {waiting.data.map((invite) => (
          <li key={invite.id}>
            {invite.name}, made by {invite.madeBy} {time.moment(invite.at)}.{' '}
            {invite.mayAgree && (
              <Button size="sm" variant="outline-primary" onClick={() => agree.mutate(invite.id)}>
                I asked {invite.name}: they want it
              </Button>
            )}
          </li>
        ))}
      </ul>
      <Failure error={agree.error} />
    </section>
  )
}
