import './materials.css'
import './rulings.css'
import { useQuery } from '@tanstack/react-query'
import { memo, useCallback, useDeferredValue, useState, type KeyboardEvent } from 'react'
import Form from 'react-bootstrap/Form'
import { Link, useSearchParams } from 'react-router'
import type { Schemas } from '../shared/api'
import { Empty, Failure, fieldErrors, Loading, PageHead } from '../shared/parts'
import { useMachines, useSession } from '../shared/session'
import { useUnit } from '../shared/units'
import { Standing } from '../shared/Standing'
import { MaterialCard } from './MaterialCard'
import { shelfQuery, type ShelfWish } from './materialQueries'
import { ShelfCell } from './ShelfCell'
import { ShelfWishes } from './ShelfWish'

type MaterialAnswer = Schemas['MaterialAnswer']

const noWish: ShelfWish = { find: '', machine: '', operation: 'cut', thickness: '', on: '' }

/** The shelf: material by machine, with what, how thick and why not. */
export function MaterialsPage() {
  const unit = useUnit()
  const machines = useMachines()
  const { time } = useSession()
  const [params, setParams] = useSearchParams()
  const [wish, setWish] = useState<ShelfWish>({ ...noWish, on: params.get('on') ?? '' })
  const put = (changed: Partial<ShelfWish>) => setWish({ ...wish, ...changed })
  const materials = useQuery(shelfQuery(unit, useDeferredValue(wish)))
  const errors = fieldErrors(materials.error)
  const shown = materials.data ?? []
  const chosen = shown.find((m) => m.id === params.get('material')) ?? shown[0]
  const choose = useCallback((id: string) => setParams({ material: id }, { replace: true }), [setParams])
  const wished = wish.find || wish.thickness || wish.on
  return (
    <>
      <PageHead title="Materials" sub={`Limits in ${unit}. What is not on the list stays out.`}>
        <Link to="/sheets">Sheets and tags</Link>
        <Link to="/materials/requests">Asked for</Link>
        <Link to="/materials/files">Files</Link>
        <Link to="/list">List for the wall</Link>
        <Form.Control
          data-find
          type="search"
          aria-label="Find a material by any name"
          placeholder="Find by any name  /"
          value={wish.find}
          onChange={(event) => put({ find: event.target.value })}
        />
      </PageHead>
      {machines.data && (
        <ShelfWishes wish={wish} put={put} machines={machines.data} error={errors.thickness ?? errors.on} />
      )}
      {(materials.isPending || machines.isPending) && <Loading what="the shelf" />}
      {!errors.thickness && !errors.on && (
        <Failure error={materials.error ?? machines.error} retry={() => void materials.refetch()} />
      )}
      {wish.on && materials.data && (
        <p className="mt-2 mb-0">
          <b>Not today’s list:</b> this is what the house said on {time.date(wish.on)}.{' '}
          <button type="button" className="quietlink" onClick={() => put({ on: '' })}>
            Back to today
          </button>
        </p>
      )}
      {materials.data && machines.data && (
        <div className="shelfpage">
          <div>
            {shown.length === 0 ? (
              <Empty
                title={wish.find ? `Nothing called “${wish.find}”` : 'Nothing may go in like that'}
                action={wished ? { text: 'Show the whole shelf', onClick: () => setWish(noWish) } : undefined}
              >
                What nobody has ruled on stays out of the machine.{' '}
                <Link to={`/materials/requests${wish.find ? `?name=${encodeURIComponent(wish.find)}` : ''}`}>
                  Ask for a ruling
                </Link>
                .
              </Empty>
            ) : (
              <Shelf materials={shown} machines={machines.data} chosen={chosen?.id} choose={choose} />
            )}
          </div>
          {chosen && <MaterialCard material={chosen} machines={machines.data} />}
        </div>
      )}
    </>
  )
}

function Shelf({
  materials,
  machines,
  chosen,
  choose,
}: {
  materials: MaterialAnswer[]
  machines: Schemas['MachineAnswer'][]
  chosen?: string
  choose: (id: string) => void
}) {
  const families = [...new Set(materials.map((m) => m.family))]
  const move = (event: KeyboardEvent<HTMLTableElement>) => {
    if (event.key !== 'ArrowDown' && event.key !== 'ArrowUp') return
    const buttons = [...event.currentTarget.querySelectorAll<HTMLButtonElement>('th button')]
    const at = buttons.indexOf(document.activeElement as HTMLButtonElement)
    if (at < 0) return
    event.preventDefault()
    buttons[Math.min(buttons.length - 1, Math.max(0, at + (event.key === 'ArrowDown' ? 1 : -1)))]?.focus()
  }
  return (
    <div className="shelfscroll" tabIndex={0} role="region" aria-label="The shelf">
      <table className="shelf" onKeyDown={move}>
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
        {families.map((family) => (
          <tbody key={family}>
            <tr className="family">
              <th colSpan={machines.length + 1} scope="colgroup">
                {family}
              </th>
            </tr>
            {materials
              .filter((m) => m.family === family)
              .map((m) => (
                <Row key={m.id} material={m} machines={machines} chosen={m.id === chosen} choose={choose} />
              ))}
          </tbody>
        ))}
      </table>
    </div>
  )
}

/** Kept as it is while others change: a shelf may hold ten thousand cells. */
const Row = memo(function Row({
  material,
  machines,
  chosen,
  choose,
}: {
  material: MaterialAnswer
  machines: Schemas['MachineAnswer'][]
  chosen: boolean
  choose: (id: string) => void
}) {
  const shut =
    material.cells.every((c) => c.standing === 'never' || c.standing === 'banned' || c.standing === 'cannot') &&
    material.cells.some((c) => c.standing !== 'cannot')
  const word = material.cells.some((c) => c.standing === 'never') ? 'Never' : 'Banned'
  return (
    <tr className={chosen ? 'chosen' : ''}>
      <th scope="row">
        <button type="button" aria-pressed={chosen} onClick={() => choose(material.id)}>
          {material.name}
          {material.twins.length > 0 && (
            <svg width="22" height="14" viewBox="0 0 22 14" aria-label="has twins" role="img">
              <circle cx="8" cy="7" r="5.6" fill="none" stroke="currentColor" strokeWidth="1.6" />
              <circle
                cx="14"
                cy="7"
                r="5.6"
                fill="none"
                stroke="currentColor"
                strokeWidth="1.6"
                strokeDasharray="2.4 2"
              />
            </svg>
          )}
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
