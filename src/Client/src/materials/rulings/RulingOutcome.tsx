import { Link } from 'react-router'
import type { Schemas } from '../../kit/api'
import { useMachines, useSession } from '../../kit/session'
import { kindNames, nameOf } from '../words'

const ways = { same: 'only its words change', tightens: 'stricter', loosens: 'milder' }

/** What a change of rulings does, cell by cell, and what it hits. */
export function RulingOutcome({ outcome }: { outcome: Schemas['RulingPreviewResponse'] }) {
  const { time } = useSession()
  const machines = useMachines()
  const machine = (id: string) => machines.data?.find((m) => m.id === id)?.name ?? id
  return (
    <div className="rulingoutcome" role="status">
      <CellChanges cells={outcome.cells} />
      <ul className="small">
        {outcome.direction === 'loosens' && (
          <li>
            <b>Milder than before:</b> another steward or the countersigner has to agree first.
          </li>
        )}
        <li>
          {outcome.bookings.length === 0
            ? 'No booking is affected.'
            : `Bookings affected: ${outcome.bookings.map((b) => `${b.number} (${b.name}, ${time.moment(b.start)})`).join(', ')}.`}
        </li>
        <li>
          {outcome.sheets.length === 0 ? (
            'No cleared sheet is affected.'
          ) : (
            <>
              Cleared sheets affected:{' '}
              {outcome.sheets.map((tag, i) => (
                <span key={tag}>
                  {i > 0 && ', '}
                  <Link to={`/sheets/${tag}`}>{tag}</Link>
                </span>
              ))}
              .
            </>
          )}
        </li>
        {outcome.settings.length > 0 && (
          <li>Test pieces of it were cut on {outcome.settings.map(machine).join(', ')}.</li>
        )}
      </ul>
    </div>
  )
}

export function CellChanges({ cells }: { cells: Schemas['CellChangeResponse'][] }) {
  return (
    <table className="plain">
      <thead>
        <tr>
          <th>Laser and operation</th>
          <th>Before</th>
          <th>After</th>
          <th>Milder or stricter</th>
        </tr>
      </thead>
      <tbody>
        {cells.map((c) => (
          <tr key={`${c.kind} ${c.operation}`}>
            <td>
              {nameOf(kindNames, c.kind)}, {c.operation}
            </td>
            <td>{c.before}</td>
            <td>
              <b>{c.after}</b>
            </td>
            <td>{ways[c.direction]}</td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}
