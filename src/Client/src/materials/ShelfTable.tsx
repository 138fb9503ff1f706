import { memo, type KeyboardEvent } from 'react'
import type { Schemas } from '../shared/api'
import { Standing } from '../shared/Standing'
import { useRowsInSight } from '../shared/useRowsInSight'
import { ShelfCell } from './ShelfCell'

type MaterialAnswer = Schemas['MaterialAnswer']
type Machine = Schemas['MachineAnswer']

/** Material by machine. Of a very long shelf only the rows in sight are drawn. */
export function ShelfTable({
  materials,
  machines,
  chosen,
  choose,
}: {
  materials: MaterialAnswer[]
  machines: Machine[]
  chosen?: string
  choose: (id: string) => void
}) {
  const lines = materials.flatMap((m, i) => (m.family === materials[i - 1]?.family ? [m] : [m.family, m]))
  const { setTable, rows, above, below, measure, focus } = useRowsInSight<HTMLTableElement>({
    keys: lines.map((line) => (typeof line === 'string' ? `family ${line}` : line.id)),
    height: 44,
  })
  const move = (event: KeyboardEvent<HTMLTableElement>) => {
    const step = event.key === 'ArrowDown' ? 1 : event.key === 'ArrowUp' ? -1 : 0
    const row = (document.activeElement as HTMLElement | null)?.closest('tr')
    if (!step || !row?.dataset.index) return
    event.preventDefault()
    let to = Number(row.dataset.index) + step
    while (typeof lines[to] === 'string') to += step
    if (lines[to]) focus(to, 'th button')
  }
  const span = machines.length + 1
  return (
    <div className="shelfscroll" tabIndex={0} role="region" aria-label="The shelf">
      <table className="shelf" ref={setTable} onKeyDown={move} aria-rowcount={lines.length + 1}>
        <thead>
          <tr>
            <th scope="col">Material</th>
            {machines.map((m) => (
              <th scope="col" key={m.id}>
                <b>{m.name}</b>
                <span>
                  {m.powerW} W {m.kind === 'co2' ? 'CO₂' : m.kind}
                </span>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {above > 0 && <Gap height={above} span={span} />}
          {rows.map(({ index }) => {
            const line = lines[index]
            if (!line) return null
            return typeof line === 'string' ? (
              <tr className="family" key={`family ${line}`} data-index={index} ref={measure}>
                <th colSpan={span} scope="rowgroup">
                  {line}
                </th>
              </tr>
            ) : (
              <Row
                key={line.id}
                index={index}
                measure={measure}
                material={line}
                machines={machines}
                chosen={line.id === chosen}
                choose={choose}
              />
            )
          })}
          {below > 0 && <Gap height={below} span={span} />}
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

const Row = memo(function Row({
  index,
  measure,
  material,
  machines,
  chosen,
  choose,
}: {
  index: number
  measure: (row: HTMLTableRowElement | null) => void
  material: MaterialAnswer
  machines: Machine[]
  chosen: boolean
  choose: (id: string) => void
}) {
  const shut =
    material.cells.every((c) => c.standing === 'never' || c.standing === 'banned' || c.standing === 'cannot') &&
    material.cells.some((c) => c.standing !== 'cannot')
  const word = material.cells.some((c) => c.standing === 'never') ? 'Never' : 'Banned'
  return (
    <tr className={chosen ? 'chosen' : ''} data-index={index} aria-rowindex={index + 2} ref={measure}>
      <th scope="row">
        <button type="button" aria-pressed={chosen} onClick={() => choose(material.id)}>
          {material.name}
          {material.twins.length > 0 && <Twins />}
        </button>
      </th>
      {shut ? (
        <td colSpan={machines.length} className="ropecell">
          <span className="ropeword">
            <Standing standing="shut" word={word} width={18} /> {material.hazard}
          </span>
        </td>
      ) : (
        machines.map((m) => <ShelfCell key={m.id} cell={material.cells.find((c) => c.machineId === m.id)} />)
      )}
    </tr>
  )
})

const Twins = () => (
  <svg width="22" height="14" viewBox="0 0 22 14" aria-label="has twins" role="img">
    <circle cx="8" cy="7" r="5.6" fill="none" stroke="currentColor" strokeWidth="1.6" />
    <circle cx="14" cy="7" r="5.6" fill="none" stroke="currentColor" strokeWidth="1.6" strokeDasharray="2.4 2" />
  </svg>
)
