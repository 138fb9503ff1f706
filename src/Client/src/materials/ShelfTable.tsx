import { memo } from 'react'
import type { Schemas } from '../kit/api'
import { LongTable, type RowPlace } from '../kit/LongTable'
import { Standing } from '../kit/Standing'
import { ShelfCell } from './ShelfCell'
import materialsCss from './materials.module.css'

type MaterialAnswer = Schemas['MaterialResponse']
type Machine = Schemas['MachineResponse']

/** Material by machine, family by family. */
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
  return (
    <LongTable
      label="The shelf"
      className={materialsCss.shelf}
      columns={machines.length + 1}
      keys={lines.map((line) => (typeof line === 'string' ? `family ${line}` : line.id))}
      height={44}
      onArrow={(from, step) => {
        let index = from + step
        while (typeof lines[index] === 'string') index += step
        return lines[index] ? { index, what: 'th button' } : undefined
      }}
      head={
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
      }
      row={(index, place) => {
        const line = lines[index]
        if (!line) return null
        return typeof line === 'string' ? (
          <tr className={materialsCss.family} key={`family ${line}`} {...place}>
            <th colSpan={machines.length + 1} scope="rowgroup">
              {line}
            </th>
          </tr>
        ) : (
          <Row
            key={line.id}
            index={index}
            measure={place.ref}
            material={line}
            machines={machines}
            chosen={line.id === chosen}
            choose={choose}
          />
        )
      }}
    />
  )
}

const Row = memo(function Row({
  index,
  measure,
  material,
  machines,
  chosen,
  choose,
}: {
  index: number
  measure: RowPlace['ref']
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
    <tr className={chosen ? materialsCss.chosen : ''} data-index={index} aria-rowindex={index + 2} ref={measure}>
      <th scope="row">
        <button type="button" aria-pressed={chosen} onClick={() => choose(material.id)}>
          {material.name}
          {material.twins.length > 0 && <Twins />}
        </button>
      </th>
      {shut ? (
        <td colSpan={machines.length} className={materialsCss.ropecell}>
          <span className={materialsCss.ropeword}>
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
  <svg width="22" height="14" viewBox="0 0 22 14" aria-label="has look-alikes" role="img">
    <circle cx="8" cy="7" r="5.6" fill="none" stroke="currentColor" strokeWidth="1.6" />
    <circle cx="14" cy="7" r="5.6" fill="none" stroke="currentColor" strokeWidth="1.6" strokeDasharray="2.4 2" />
  </svg>
)
