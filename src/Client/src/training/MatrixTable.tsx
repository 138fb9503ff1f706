import { memo } from 'react'
import type { Schemas } from '../shared/api'
import { useSession } from '../shared/session'
import { Standing } from '../shared/Standing'
import { useRowsInSight } from '../shared/useRowsInSight'

type Row = Schemas['MatrixRowAnswer']
type Cell = Schemas['MatrixCellAnswer']

/** Person by authority. Of very many people only the rows in sight are drawn. */
export function MatrixTable({
  matrix,
  chosen,
  choose,
}: {
  matrix: Schemas['MatrixAnswer']
  chosen?: string
  choose: (id: string) => void
}) {
  const { setTable, rows, above, below, measure } = useRowsInSight<HTMLTableElement>({
    keys: matrix.rows.map((r) => r.id),
    height: 38,
  })
  const span = matrix.columns.length + 1
  return (
    <div className="shelfscroll" tabIndex={0} role="region" aria-label="Certificates">
      <table className="plain matrix" ref={setTable} aria-rowcount={matrix.rows.length + 1}>
        <thead>
          <tr>
            <th scope="col">Person</th>
            {matrix.columns.map((c) => (
              <th scope="col" key={c.authority}>
                {c.name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {above > 0 && <Gap height={above} span={span} />}
          {rows.map(({ index }) => {
            const row = matrix.rows[index]
            return (
              row && (
                <PersonRow
                  key={row.id}
                  index={index}
                  measure={measure}
                  row={row}
                  columns={matrix.columns.length}
                  chosen={row.id === chosen}
                  choose={choose}
                />
              )
            )
          })}
          {below > 0 && <Gap height={below} span={span} />}
        </tbody>
      </table>
    </div>
  )
}

const Gap = ({ height, span }: { height: number; span: number }) => (
  <tr aria-hidden="true" className="gap">
    <td colSpan={span} style={{ height }} />
  </tr>
)

const PersonRow = memo(function PersonRow({
  index,
  measure,
  row,
  columns,
  chosen,
  choose,
}: {
  index: number
  measure: (row: HTMLTableRowElement | null) => void
  row: Row
  columns: number
  chosen: boolean
  choose: (id: string) => void
}) {
  return (
    <tr className={chosen ? 'chosen' : ''} data-index={index} aria-rowindex={index + 2} ref={measure}>
      <th scope="row">
        <button type="button" className="quietlink" aria-pressed={chosen} onClick={() => choose(row.id)}>
          {row.name}
        </button>
        {row.paused && ' '}
        {row.paused && <Standing standing="shut" word="paused" width={18} />}
      </th>
      {Array.from({ length: columns }, (_, a) => (
        <td key={a}>
          <Held cell={row.cells.find((c) => c.a === a)} />
        </td>
      ))}
    </tr>
  )
})

function Held({ cell }: { cell?: Cell }) {
  const { time } = useSession()
  if (!cell) return <span className="none">–</span>
  const day = (text?: string | null) => (text ? time.date(text) : '')
  if (cell.hold === 'suspended') return <Standing standing="shut" word="suspended" width={18} />
  if (cell.over) return <Standing standing="shut" word={`idle, ${day(cell.lapses)}`} width={18} />
  if (cell.hold === 'review') return <Standing standing="ask" word="under review" width={18} />
  if (cell.soon)
    return (
      <Standing standing="caution" word={cell.idle ? `idle after ${day(cell.lapses)}` : day(cell.lapses)} width={18} />
    )
  return (
    <span className="holds" title={cell.paper ? 'Entered from paper' : undefined}>
      {cell.until ? day(cell.until) : 'no end'}
      {cell.paper && ' (paper)'}
    </span>
  )
}
