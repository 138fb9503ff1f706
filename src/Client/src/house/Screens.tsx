import { useQuery } from '@tanstack/react-query'
import { answer, client, type Schemas } from '../kit/api'
import { usePress } from '../kit/Act'
import { Failure } from '../kit/parts'
import { useSession } from '../kit/session'

/** For a keeper: the screens that stand at a machine. Each is enrolled on itself. */
export function Screens({ machine }: { machine: Schemas['MachineResponse'] }) {
  const { time } = useSession()
  const path = { machine: machine.id }
  const all = useQuery({
    queryKey: ['live', 'screens', machine.id],
    queryFn: async ({ signal }) =>
      (await answer(client.GET('/api/stations/{machine}/devices', { params: { path }, signal }))).items,
  })
  const revoke = usePress((id: string) =>
    answer(client.DELETE('/api/stations/{machine}/devices/{id}', { params: { path: { ...path, id } } })),
  )
  return (
    <details>
      <summary>Screens</summary>
      <Failure error={all.error ?? revoke.error} />
      <ul className="plainlist">
        {all.data?.map((s) => (
          <li key={s.id}>
            {s.name}, since {time.moment(s.enrolledAt)}{' '}
            <button
              type="button"
              className="quietlink"
              aria-label={`Revoke ${s.name}`}
              disabled={revoke.isPending}
              onClick={() => revoke.mutate(s.id)}
            >
              Revoke
            </button>
          </li>
        ))}
      </ul>
      <p className="small quiet">
        {all.data?.length === 0 && 'None. '}
        To enrol one, sign in on it as a keeper and open <a href={`/station/${machine.id}`}>{machine.name}’s screen</a>.
      </p>
    </details>
  )
}
