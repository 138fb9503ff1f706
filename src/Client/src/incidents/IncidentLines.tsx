import { capital } from '../kit/names'
import { Link } from 'react-router'
import type { Schemas } from '../kit/api'
import { useSession } from '../kit/session'
import css from './incidents.module.css'

/** Incidents, one in a line. */
export function IncidentLines({ lines }: { lines: Schemas['IncidentLineResponse'][] }) {
  const { time } = useSession()
  return (
    <ul className={css.lines}>
      {lines.map((i) => (
        <li key={i.id} data-incident={i.number}>
          <span className={css.number}>{i.number}</span>
          <span>
            <Link to={`/incidents/${i.id}`}>
              {capital(i.whatWords)}, {i.place}
            </Link>
            <span className={css.small}>
              {i.carriedOver ? time.date(i.at) : time.moment(i.at)}
              {i.carriedOver && ', carried over'}
              {i.causes.length > 0 && ` · ${i.causes.join(', ')}`}
            </span>
          </span>
          <span className={css.severity}>
            severity <b>{i.severity}</b> of 5
          </span>
          <span className={css.held}>{i.holdsSet > 0 && (i.holdsSet === 1 ? '1 hold' : `${i.holdsSet} holds`)}</span>
        </li>
      ))}
    </ul>
  )
}
