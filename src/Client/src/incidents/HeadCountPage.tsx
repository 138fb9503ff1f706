import { useQuery } from '@tanstack/react-query'
import Form from 'react-bootstrap/Form'
import { Link } from 'react-router'
import { Failure, Loading, PageHead, RunOn } from '../kit/parts'
import { useSession } from '../kit/session'
import { headCountQuery } from './incidentQueries'
import css from './incidents.module.css'

/** The list for the meeting point. Ticks stay on this page alone. */
export function HeadCountPage() {
  const { time } = useSession()
  const list = useQuery(headCountQuery)
  const found = list.data
  return (
    <>
      <PageHead title="Head count" sub={found?.title}>
        <a href="/api/head-count.pdf">Print it</a>
        <Link to="/incidents">Incidents</Link>
      </PageHead>
      {list.isPending && <Loading what="the list" />}
      {found && (
        <p className={list.isError ? css.warn : 'quiet'} role="status">
          <b>
            {found.count} as of {time.clock(found.at)}
          </b>
          {list.isError ? ': the house cannot be reached, this is the last list.' : '.'} Nobody goes back in to look.
          Tell the fire service who is missing. Left open on the duty phone, this page keeps its last list when the
          network goes.
        </p>
      )}
      {!found && <Failure error={list.error} retry={() => void list.refetch()} />}
      {found?.places.map((place) => (
        <section key={place.place} className="mt-4" data-place={place.place}>
          <RunOn title={place.place} after={place.people.length} />
          {place.people.map((person) => (
            <Form.Check
              key={`${person.name} ${person.says}`}
              id={`head-${place.place}-${person.name}-${person.says}`.replace(/[^a-zA-Z0-9-]/g, '-')}
              label={
                <>
                  <b>{person.name}</b> <span className={css.small}>{person.says}</span>
                </>
              }
            />
          ))}
        </section>
      ))}
      {found?.places.length === 0 && <p className="mt-4">The house knows of nobody. Ask aloud.</p>}
    </>
  )
}
