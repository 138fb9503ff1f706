import { Link } from 'react-router'
import type { Schemas } from '../../kit/api'
import { useSession } from '../../kit/session'

/** What a report put away, and what it says to look at. */
export function ReportOutcome({ made }: { made: Schemas['ReportResponse'] }) {
  const { time } = useSession()
  const tags = (list: string[]) =>
    list.map((t, i) => (
      <span key={t}>
        {i > 0 && ', '}
        <Link to={`/sheets/${t}`}>{t}</Link>
      </span>
    ))
  return (
    <ul className="small" role="status">
      <li>
        <b>Put away now:</b> {tags(made.quarantined)}. Lay a note on them and leave them.
      </li>
      {made.recheck.length > 0 && <li>To look at again, cleared on the same evidence: {tags(made.recheck)}.</li>}
      <li>
        {made.bookings.length === 0
          ? 'No booking uses them.'
          : `Bookings affected: ${made.bookings.map((b) => `${b.number} (${b.name}, ${time.moment(b.start)})`).join(', ')}.`}
      </li>
      {made.runs.length > 0 && <li>Runs already made with them: {made.runs.join(', ')}.</li>}
      {made.machines.length > 0 && (
        <li>
          <b>Inspect before the next run:</b> {made.machines.join(', ')}: lens, mirrors, rails, fan.
        </li>
      )}
    </ul>
  )
}
