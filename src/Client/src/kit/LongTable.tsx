import type { KeyboardEvent, ReactNode } from 'react'
import { useRowsInSight } from './useRowsInSight'

/** What a row has to carry so that its height is known. */
export interface RowPlace {
  'data-index': number
  'aria-rowindex': number
  ref: (row: HTMLTableRowElement | null) => void
}

/** A table that may have thousands of rows: of a very long one only those in sight are drawn, with gaps for the rest. */
export function LongTable({
  label,
  className,
  columns,
  head,
  keys,
  height,
  row,
  onArrow,
}: {
  label: string
  className: string | undefined
  columns: number
  head: ReactNode
  keys: string[]
  /** First guess of a row's height, CSS px. */
  height: number
  row: (index: number, place: RowPlace) => ReactNode
  /** Where an arrow key leads from a row: the next index and what to focus there. */
  onArrow?: (from: number, step: 1 | -1) => { index: number; what: string } | undefined
}) {
  const { setTable, rows, above, below, measure, focus } = useRowsInSight<HTMLTableElement>({ keys, height })
  const move = (event: KeyboardEvent<HTMLTableElement>) => {
    const step = event.key === 'ArrowDown' ? 1 : event.key === 'ArrowUp' ? -1 : 0
    const at = (document.activeElement as HTMLElement | null)?.closest('tr')?.dataset.index
    const to = step && at && onArrow?.(Number(at), step)
    if (!to) return
    event.preventDefault()
    focus(to.index, to.what)
  }
  return (
    <div className="shelfscroll" tabIndex={0} role="region" aria-label={label}>
      <table className={className} ref={setTable} onKeyDown={move} aria-rowcount={keys.length + 1}>
        <thead>{head}</thead>
        <tbody>
          {above > 0 && <Gap height={above} span={columns} />}
          {rows.map(({ index }) => row(index, { 'data-index': index, 'aria-rowindex': index + 2, ref: measure }))}
          {below > 0 && <Gap height={below} span={columns} />}
        </tbody>
      </table>
    </div>
  )
}

/** Stands for the rows that are not in sight. */
const Gap = ({ height, span }: { height: number; span: number }) => (
  <tr aria-hidden="true" className="gap">
    <td colSpan={span} style={{ height }} />
  </tr>
)
