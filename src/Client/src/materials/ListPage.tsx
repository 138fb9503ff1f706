import './list.css'
import { useQuery } from '@tanstack/react-query'
import { Link, useParams } from 'react-router'
import { answer, client, type Schemas } from '../shared/api'
import { Failure, Loading } from '../shared/parts'
import { useUnit } from '../shared/units'

/** The house's list for everybody: what stays out first, readable on a phone at the machine. */
export function ListPage() {
  const { machine } = useParams()
  const unit = useUnit()
  const list = useQuery({
    queryKey: ['list', machine, unit],
    queryFn: ({ signal }) => answer(client.GET('/api/list', { params: { query: { machine, unit } }, signal })),
    retry: 1,
  })
  if (list.isPending)
    return (
      <main className="publiclist">
        <Loading what="the list" />
      </main>
    )
  if (!list.data)
    return (
      <main className="publiclist">
        <h1>No list, no laser</h1>
        <p>The list cannot be shown just now. What you do not find on it stays out of the machine.</p>
        <Failure error={list.error} retry={() => void list.refetch()} />
      </main>
    )
  return <Shown list={list.data} />
}

function Shown({ list }: { list: Schemas['PublicListResponse'] }) {
  const unit = useUnit()
  const poster = (paper: string) =>
    `/api/list.pdf?${new URLSearchParams({ paper, unit, ...(list.machine && { machine: list.machine.id }) })}`
  return (
    <main className="publiclist">
      <header>
        <h1>{list.machine ? `${list.machine.name}: what may go in` : 'What may go in'}</h1>
        <nav aria-label="Lists">
          <Link to="/list" aria-current={list.machine ? undefined : 'page'}>
            Whole house
          </Link>
          {list.machines.map((m) => (
            <Link key={m.id} to={`/list/${m.id}`} aria-current={m.id === list.machine?.id ? 'page' : undefined}>
              {m.name}
            </Link>
          ))}
        </nav>
      </header>
      {list.sections.map((section) => (
        <section key={section.standing} data-standing={section.standing}>
          <h2>{section.title}</h2>
          <ul>
            {section.items.map((item) => (
              <li key={item.id}>
                <b>{item.name}</b>
                {item.words && <span className="words">{item.words}</span>}
                {(section.standing === 'never' || section.standing === 'banned') && (
                  <>
                    {item.alsoCalled.length > 0 && <span>Also called {item.alsoCalled.join(', ')}.</span>}
                    <span>{item.hazard}</span>
                  </>
                )}
                {item.hints && <span>{item.hints}</span>}
              </li>
            ))}
          </ul>
        </section>
      ))}
      <footer>
        <p>
          <b>What is not on this list stays out.</b> If you do not know what it is, you do not cut it. Follow your local
          code, the maker’s manual and the supplier’s data sheet.
        </p>
        <p>
          {list.house}, made {list.made}.{' '}
          {list.overdue.length > 0 && `To be looked at again: ${list.overdue.join(', ')}. `}
          Poster: <a href={poster('a4')}>A4</a>, <a href={poster('a3')}>A3</a> (PDF). <Link to="/">Sign in</Link>
        </p>
      </footer>
    </main>
  )
}
