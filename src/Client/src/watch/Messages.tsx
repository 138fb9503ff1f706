import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { Link } from 'react-router'
import { answer, client } from '../kit/api'
import { RunOn } from '../kit/parts'
import { useSession } from '../kit/session'
import watchCss from './watch.module.css'

/** What the person was told and has not put away; nothing is shown when there is nothing. */
export function Messages() {
  const { time } = useSession()
  const queries = useQueryClient()
  const messages = useQuery({
    queryKey: ['live', 'messages'],
    queryFn: async ({ signal }) => (await answer(client.GET('/api/messages', { signal }))).items,
  })
  const read = useMutation({
    mutationFn: (id: string) => answer(client.POST('/api/messages/{id}/read', { params: { path: { id } } })),
    onSettled: () => queries.invalidateQueries({ queryKey: ['live', 'messages'] }),
  })
  const unread = messages.data?.filter((message) => !message.read) ?? []
  if (unread.length === 0) return null
  return (
    <section className="mb-3">
      <RunOn title="For you" after={unread.length} />
      <ul className={watchCss.messages}>
        {unread.map((message) => (
          <li key={message.id}>
            <span className="quiet">{time.moment(message.at)}</span>
            <span>
              <Link to={message.link}>{message.title}</Link>
              <span className={watchCss.body}>{message.body}</span>
            </span>
            <button type="button" className="quietlink" onClick={() => read.mutate(message.id)}>
              Got it<span className="visually-hidden">: {message.title}</span>
            </button>
          </li>
        ))}
      </ul>
    </section>
  )
}
