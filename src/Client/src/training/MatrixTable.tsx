import { memo } from 'react'
import type { Schemas } from '../kit/api'
import { LongTable, type RowPlace } from '../kit/LongTable'
import { useSession } from '../kit/session'
import { Standing } from '../kit/Standing'
import trainingCss from './training.module.css'

type Row = Schemas['MatrixRowResponse']
type Cell = Schemas['MatrixCellResponse']

/** Person by authority. */
export function MatrixTable({
  matrix,
  chosen,
  choose,
}: {
  matrix: Schemas['MatrixResponse']
  chosen?: string
  choose: (id: string) => void
}) {
  return (
    <LongTable
      label="Certificates"
      className={`plain ${trainingCss.matrix}`}
      columns={matrix.columns.length + 1}
      keys={matrix.rows.map((r) => r.id)}
      height={38}
      onArrow={(from, step) => (matrix.rows[from + step] ? { index: from + step, what: 'th button' } : undefined)}
      head={
        <tr>
          <th scope="col">Person</th>
          {matrix.columns.map((c) => (
            <th scope="col" key={c.authority}>
              {c.name}
            </th>
          ))}
        </tr>
      }
      row={(index, place) => {
        const row = matrix.rows[index]
        return (
          row && (
            <PersonRow
              key={row.id}
              index={index}
              measure={place.ref}
              row={row}
              columns={matrix.columns.length}
              chosen={row.id === chosen}
              choose={choose}
            />
          )
        )
      }}
    />
  )
}

const PersonRow = memo(function PersonRow({
  index,
  measure,
  row,
  columns,
  chosen,
  choose,
}: {
  index: number
  measure: RowPlace['ref']
  row: Row
  columns: number
  chosen: boolean
  choose: (id: string) => void
}) {
  return (
    <tr className={chosen ? trainingCss.chosen : ''} data-index={index} aria-rowindex={index + 2} ref={measure}>
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
  if (!cell) return <span className={trainingCss.none}>–</span>
  const day = (text?: string | null) => (text ? time.date(text) : '')
  if (cell.hold === 'suspended') return <Standing standing="shut" word="suspended" width={18} />
  if (cell.over) return <Standing standing="shut" word={`idle, ${day(cell.lapses)}`} width={18} />
  if (cell.hold === 'review') return <Standing standing="ask" word="under review" width={18} />
  if (cell.soon)
    return (
      <Standing standing="caution" word={cell.idle ? `idle after ${day(cell.lapses)}` : day(cell.lapses)} width={18} />
    )
  return (
    <span className={trainingCss.holds} title={cell.paper ? 'Entered from paper' : undefined}>
      {cell.until ? day(cell.until) : 'no last day'}
      {cell.paper && ' (paper)'}
    </span>
  )
}
