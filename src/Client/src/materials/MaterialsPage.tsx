import { useQuery } from '@tanstack/react-query'
import { useCallback, useDeferredValue, useState } from 'react'
import Form from 'react-bootstrap/Form'
import { Link, useSearchParams } from 'react-router'
import { Empty, Failure, fieldErrors, Loading, PageHead } from '../kit/parts'
import { useMachines, useSession } from '../kit/session'
import { useUnit } from '../kit/units'
import { MaterialCard } from './MaterialCard'
import { shelfQuery, type ShelfWish } from './materialQueries'
import { ShelfTable } from './ShelfTable'
import { ShelfWishes } from './ShelfWish'

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
      <PageHead
        title="Materials"
        sub={`Limits in ${unit === 'in' ? 'inches' : 'mm'}. What is not on the list stays out.`}
      >
        <Link to="/sheets">Sheets and tags</Link>
        <Link to="/materials/settings">Settings</Link>
        <Link to="/materials/requests">Asked for</Link>
        <Link to="/materials/files">Files</Link>
        <a href={unit === 'in' ? '/list?unit=in' : '/list'}>List for the wall</a>
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
                title={wish.find ? `Nothing called “${wish.find}”` : 'No material fits that'}
                action={wished ? { text: 'Show the whole shelf', onClick: () => setWish(noWish) } : undefined}
              >
                What nobody has ruled on stays out of the machine.{' '}
                <Link to={`/materials/requests${wish.find ? `?name=${encodeURIComponent(wish.find)}` : ''}`}>
                  Ask for a ruling
                </Link>
                .
              </Empty>
            ) : (
              <ShelfTable materials={shown} machines={machines.data} chosen={chosen?.id} choose={choose} />
            )}
          </div>
          {chosen && <MaterialCard material={chosen} machines={machines.data} />}
        </div>
      )}
    </>
  )
}
