import { capital } from '../kit/names'
import { useQuery } from '@tanstack/react-query'
import { useParams } from 'react-router'
import { useAction } from '../kit/Act'
import { answer, client, type Schemas } from '../kit/api'
import { Failure, Loading, PageHead } from '../kit/parts'
import { hasRole, useSession } from '../kit/session'
import { Actions } from './Actions'
import { Causes } from './Causes'
import { Closing } from './Closing'
import { Details } from './Details'
import { FireWatch } from './FireWatch'
import { Holds } from './Holds'
import { Papers } from './Papers'
import { Seen } from './Seen'
import { Severity } from './Severity'
import { incidentQuery } from './incidentQueries'
import css from './incidents.module.css'

/** One incident: what was seen, why, what is held, what is done, and what still closes it. */
export function IncidentPage() {
  const { id } = useParams()
  const incident = useQuery(incidentQuery(id!))
  const { me, time } = useSession()
  const i = incident.data
  return (
    <>
      <PageHead
        title={i ? `Incident ${i.number}` : 'Incident'}
        sub={i && `${capital(i.whatWords)}, ${i.place}, ${time.moment(i.at)}`}
      >
        {i && (
          <>
            <a href={`/api/incidents/${i.id}.pdf`}>Print without names</a>
            {hasRole(me, 'steward', 'keeper') && <a href={`/api/incidents/${i.id}.pdf?personal=true`}>Print in full</a>}
          </>
        )}
      </PageHead>
      {incident.isPending && <Loading what="the incident" />}
      <Failure error={incident.error} retry={() => void incident.refetch()} />
      {i && <Whole incident={i} />}
    </>
  )
}

function Whole({ incident: i }: { incident: Schemas['IncidentResponse'] }) {
  const change = useAction((severity: number) =>
    answer(
      client.POST('/api/incidents/{id}/change', {
        params: { path: { id: i.id } },
        body: { version: i.version, severity },
      }),
    ),
  )
  return (
    <>
      <Severity
        value={i.severity}
        put={(severity) => change.mutate(severity)}
        disabled={!i.may.investigate || change.isPending}
      />
      <Failure error={change.error} />
      {i.filledIn.length > 0 && (
        <p className={css.filled}>
          Filled in from the record:{' '}
          {i.filledIn.map((f) => (
            <b key={f}>{f}</b>
          ))}
        </p>
      )}
      {i.carriedOver && <p className={css.filled}>Carried over from an older list.</p>}
      <div className={css.columns}>
        <div>
          <Seen incident={i} />
          <Causes incident={i} />
          <Actions incident={i} />
        </div>
        <div>
          <Holds incident={i} />
          {(i.watch.wanted || i.watch.who) && <FireWatch incident={i} />}
          <Closing incident={i} />
          <Papers incident={i} />
          <Details incident={i} />
        </div>
      </div>
    </>
  )
}
