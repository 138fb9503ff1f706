import { capital } from '../kit/names'
import { useQuery } from '@tanstack/react-query'
import { Link, useNavigate } from 'react-router'
import { Empty, Failure, Loading, PageHead, RunOn } from '../kit/parts'
import { hasRole, useSession } from '../kit/session'
import { IncidentLines } from './IncidentLines'
import { Looks } from './Looks'
import { NearMisses } from './NearMisses'
import { incidentsQuery } from './incidentQueries'
import css from './incidents.module.css'

/** What went wrong, what nearly did, and what was learnt from it. */
export function IncidentsPage() {
  const { me } = useSession()
  const incidents = useQuery(incidentsQuery)
  const navigate = useNavigate()
  const records = hasRole(me, 'steward', 'keeper', 'countersigner')
  const list = incidents.data
  const open = list?.items.filter((i) => i.open) ?? []
  const closed = list?.items.filter((i) => !i.open) ?? []
  return (
    <>
      <PageHead title="Incidents" sub="Telling is never held against anybody.">
        <Link className="btn btn-primary btn-sm" to="/incidents/tell">
          Tell an incident
        </Link>
        <a className="btn btn-outline-primary btn-sm" href="/near-miss">
          Near miss, without a name
        </a>
        {hasRole(me, 'steward', 'trainer', 'keeper') && <Link to="/incidents/head-count">Head count</Link>}
        {records && (
          <>
            <Link to="/incidents/figures">How often</Link>
            <Link to="/incidents/files">Files</Link>
          </>
        )}
      </PageHead>
      {incidents.isPending && <Loading what="the incidents" />}
      <Failure error={incidents.error} retry={() => void incidents.refetch()} />
      {list && (
        <div className={css.columns}>
          <div>
            <Looks looks={list.looks} />
            <RunOn title={list.yours ? 'Yours' : 'Open'} after={open.length} />
            {open.length === 0 ? (
              <Empty
                title="None is open"
                action={{ text: 'Tell an incident', onClick: () => void navigate('/incidents/tell') }}
              >
                {list.yours
                  ? 'Incidents that you were part of will show here.'
                  : 'What somebody tells, and a run logged with a flame, will show here.'}
              </Empty>
            ) : (
              <IncidentLines lines={open} />
            )}
            {closed.length > 0 && (
              <section className="mt-4">
                <RunOn title="Closed" after={closed.length} />
                <IncidentLines lines={closed} />
              </section>
            )}
          </div>
          <div>
            {records && <NearMisses mayStrike={hasRole(me, 'steward')} />}
            <section className={records ? 'mt-4' : undefined}>
              <RunOn title="Teaching cases" after={list.lessons.length} />
              {list.lessons.length === 0 && (
                <p className="quiet">What was learnt from an incident stands here, without names.</p>
              )}
              <ul className={css.lessons}>
                {list.lessons.map((lesson) => (
                  <li key={lesson.words}>
                    <b>
                      {capital(lesson.whatWords)}, {lesson.month}
                    </b>
                    <p>{lesson.words}</p>
                  </li>
                ))}
              </ul>
            </section>
          </div>
        </div>
      )}
    </>
  )
}
