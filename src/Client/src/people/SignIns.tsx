import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import Button from 'react-bootstrap/Button'
import { answer, client } from '../kit/api'
import { Failure, Loading, RunOn } from '../kit/parts'
import { useSession } from '../kit/session'

/** Where one is signed in, and how each sign-in is ended. */
export function SignIns() {
  const { time } = useSession()
  const queries = useQueryClient()
  const sessions = useQuery({
    queryKey: ['live', 'sessions'],
    queryFn: async ({ signal }) => (await answer(client.GET('/api/me/sessions', { signal }))).items,
  })
  const settled = () => queries.invalidateQueries({ queryKey: ['live', 'sessions'] })
  const end = useMutation({
    mutationFn: (id: string) => answer(client.DELETE('/api/me/sessions/{id}', { params: { path: { id } } })),
    onSettled: settled,
  })
  const others = useMutation({
    mutationFn: () => answer(client.POST('/api/me/sessions/end-others')),
    onSettled: settled,
  })
  return (
    <section className="sheetgroup">
      <RunOn title="Where you are signed in" after={sessions.data?.length} />
      {sessions.isPending && <Loading what="your sign-ins" />}
      <Failure error={sessions.error ?? end.error ?? others.error} />
      <ul className="plainlist mt-2">
        {sessions.data?.map((s) => (
          <li key={s.id}>
            {s.device}
            {s.shared && ', a shared device'}, since {time.moment(s.began)}, last used {time.moment(s.seen)}
            {s.here ? (
              <b> (here)</b>
            ) : (
              <>
                {' '}
                <button type="button" className="quietlink" disabled={end.isPending} onClick={() => end.mutate(s.id)}>
                  Sign it out
                </button>
              </>
            )}
          </li>
        ))}
      </ul>
      <p className="small quiet">A sign-in lasts twelve hours at most.</p>
      {(sessions.data?.length ?? 0) > 1 && (
        <Button size="sm" variant="outline-primary" disabled={others.isPending} onClick={() => others.mutate()}>
          Sign out everywhere else
        </Button>
      )}
    </section>
  )
}
