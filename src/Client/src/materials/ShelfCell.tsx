import type { Schemas } from '../kit/api'
import { Standing } from '../kit/Standing'
import materialsCss from './materials.module.css'

type Cell = Schemas['ShelfCell']
type OperationName = Schemas['ShelfOperation']['operation']

/** Cut is a slab split through, score a V half way, engrave a shallow trough. */
export function OperationGlyph({ operation }: { operation: OperationName }) {
  return (
    <svg width="20" height="10" viewBox="0 0 20 10" aria-hidden="true" className={materialsCss.opglyph}>
      {operation === 'cut' && (
        <path d="M0 1H8V9H0ZM12 1H20V9H12ZM10 0V10" fill="currentColor" stroke="currentColor" strokeWidth="1" />
      )}
      {operation === 'score' && <path d="M0 1H7L10 6L13 1H20V9H0Z" fill="currentColor" />}
      {operation === 'engrave' && <path d="M0 1H4V4H16V1H20V9H0Z" fill="currentColor" />}
    </svg>
  )
}

/** What one machine may do with one material: the best operation large, the others beneath. */
export function ShelfCell({ cell }: { cell?: Cell }) {
  if (!cell) return <td />
  if (cell.standing === 'never' || cell.standing === 'banned')
    return (
      <td>
        <Standing standing="shut" word={cell.words} width={18} />
      </td>
    )
  if (cell.standing === 'cannot')
    return (
      <td className={materialsCss.cannot}>
        <svg width="20" height="10" viewBox="0 0 20 10" aria-hidden="true" className={materialsCss.opglyph}>
          <rect x="0.8" y="0.8" width="18.4" height="8.4" fill="none" stroke="currentColor" strokeWidth="1.4" />
        </svg>
        Cannot
      </td>
    )
  const others = cell.operations.filter(
    (o) => o.operation !== 'cut' && (o.standing === 'permitted' || o.standing === 'byArrangement'),
  )
  const cuts = cell.operations.find((o) => o.operation === 'cut')
  return (
    <td>
      <div className="cellmain">
        {cell.standing === 'byArrangement' ? (
          <Standing standing="ask" word={cell.words} width={18} />
        ) : (
          <>
            {cuts?.standing === 'permitted' && <OperationGlyph operation="cut" />}
            <b>{cell.words}</b>
          </>
        )}
      </div>
      <div className={materialsCss.cellmore}>
        {others.map((o) => (
          <span key={o.operation}>
            <OperationGlyph operation={o.operation} />
            {o.standing === 'byArrangement' && cell.standing !== 'byArrangement'
              ? `ask to ${o.operation}`
              : o.operation}
          </span>
        ))}
      </div>
    </td>
  )
}
