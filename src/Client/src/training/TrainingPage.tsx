import { useQuery } from '@tanstack/react-query'
import { useCallback, useDeferredValue, useState } from 'react'
import Form from 'react-bootstrap/Form'
import { Link, useSearchParams } from 'react-router'
import { Empty, Failure, Loading, PageHead } from '../kit/parts'
import { hasRole, peopleQuery, useMachines, useSession } from '../kit/session'
import { Founding } from './Founding'
import { MatrixTable } from './MatrixTable'
import { PersonCard } from './PersonCard'
import { matrixQuery, type MatrixWish } from './trainingQueries'
import trainingCss from './training.module.css'

const noWish: MatrixWish = { find: '', authority: '', show: 'all' }
const shows = [
  ['all', 'everybody'],
  ['holds', 'who may run'],
  ['none', 'who holds none'],
  ['soon', 'what lapses soon'],
  ['over', 'who is out of practice'],
  ['held', 'under review or suspended'],
] as const

/** Who may run what, and until when. */
export function TrainingPage() {
  const { me } = useSession()
  const people = useQuery(peopleQuery)
  const machines = useMachines()
  const [params, setParams] = useSearchParams()
  const staff = hasRole(me, 'steward', 'trainer', 'keeper')
  const chosen = people.data?.find((p) => p.id === (params.get('person') ?? me.memberId))
  const choose = useCallback((id: string) => setParams({ person: id }, { replace: true }), [setParams])
  return (
    <>
      <PageHead title="Training" sub="Who may run what, and until when.">
        <Link to="/training/ladder">Your way to the machines</Link>
        <Link to="/training/inductions">Inductions</Link>
        <Link to="/training/paths">Paths</Link>
        {me.roles.some((r) => r.startsWith('trainer')) && <Link to="/training/questions">Questions</Link>}
        {hasRole(me, 'steward') && <Link to="/training/review">Review</Link>}
      </PageHead>
      <Failure error={people.error ?? machines.error} retry={() => void people.refetch()} />
      {machines.data && <Founding machines={machines.data} />}
      {people.isPending && <Loading what="the certificates" />}
      {people.data && (
        <div className={staff ? `shelfpage ${trainingCss.trainingpage}` : `${trainingCss.ownticket} mt-3`}>
          {staff && <Matrix chosen={chosen?.id} choose={choose} />}
          {chosen && <PersonCard key={chosen.id} person={chosen} />}
        </div>
      )}
    </>
  )
}

function Matrix({ chosen, choose }: { chosen?: string; choose: (id: string) => void }) {
  const [wish, setWish] = useState(noWish)
  const put = (changed: Partial<MatrixWish>) => setWish({ ...wish, ...changed })
  const matrix = useQuery(matrixQuery(useDeferredValue(wish)))
  const shown = matrix.data
  const file = (format: string) => `/api/training/matrix-file?${new URLSearchParams({ ...wish, format })}`
  return (
    <div>
      <div className={trainingCss.matrixwish} role="search" aria-label="Narrow the list">
        <Form.Control
          data-find
          type="search"
          aria-label="Find a person"
          placeholder="Find a person  /"
          value={wish.find}
          onChange={(event) => put({ find: event.target.value })}
        />
        <Form.Select aria-label="Show" value={wish.show} onChange={(event) => put({ show: event.target.value })}>
          {shows.map(([key, name]) => (
            <option key={key} value={key}>
              {name}
            </option>
          ))}
        </Form.Select>
        <Form.Select
          aria-label="Machine or add-on"
          value={wish.authority}
          onChange={(event) => put({ authority: event.target.value })}
        >
          <option value="">on any machine</option>
          {shown?.columns.map((c) => (
            <option key={c.authority} value={c.authority}>
              {c.name}
            </option>
          ))}
        </Form.Select>
        {shown && (
          <span className="small quiet" aria-live="polite">
            {shown.rows.length} of {shown.all}
          </span>
        )}
        <span className="small">
          As a file: <a href={file('csv')}>CSV</a> <a href={file('json')}>JSON</a>
        </span>
      </div>
      {matrix.isPending && <Loading what="who may run what" />}
      <Failure error={matrix.error} retry={() => void matrix.refetch()} />
      {shown &&
        (shown.rows.length === 0 ? (
          <Empty title="Nobody matches" action={{ text: 'Show everybody', onClick: () => setWish(noWish) }}>
            People are found by any part of their name.
          </Empty>
        ) : (
          <MatrixTable matrix={shown} chosen={chosen} choose={choose} />
        ))}
    </div>
  )
}
