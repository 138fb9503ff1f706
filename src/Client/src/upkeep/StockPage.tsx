import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import { Link } from 'react-router'
import { Act, useAction } from '../kit/Act'
import { answer, client, type Schemas } from '../kit/api'
import { MachineField } from '../kit/MachineField'
import { Empty, Failure, fieldErrors, Loading, PageHead, RunOn, SelectField, TextField, Urgency } from '../kit/parts'
import { hasRole, useMachines, useSession } from '../kit/session'
import { numberOf } from './numbers'
import { parts } from './PlanForm'
import { stockQuery } from './upkeepQueries'
import css from './upkeep.module.css'

type Stock = Schemas['StockResponse']

/** What upkeep uses up: what is there, what is to be ordered, and where the used one goes. */
export function StockPage() {
  const { me } = useSession()
  const stock = useQuery(stockQuery)
  const [adding, setAdding] = useState(false)
  const items = stock.data ?? []
  const low = items.filter((i) => i.low).length
  const steward = hasRole(me, 'steward')
  return (
    <>
      <PageHead title="Stock of upkeep" sub="What upkeep uses up, and where the used one goes">
        <Link to="/upkeep">Upkeep</Link>
        {steward && !adding && (
          <Button variant="outline-primary" onClick={() => setAdding(true)}>
            Add to the stock
          </Button>
        )}
      </PageHead>
      {adding && (
        <section className={css.sheet}>
          <RunOn title="New in the stock" />
          <Describe close={() => setAdding(false)} />
        </section>
      )}
      <section className="mt-3">
        <RunOn title="On the shelf" after={low > 0 ? `${low} to be ordered` : items.length} />
        {stock.isPending && <Loading what="the stock" />}
        <Failure error={stock.error} retry={() => void stock.refetch()} />
        {stock.data && items.length === 0 && (
          <Empty title="Nothing is listed yet">
            A steward lists what upkeep uses up: lenses, carbon, distilled water, cotton buds.
          </Empty>
        )}
        <ul className={css.round}>
          {items.map((item) => (
            <li key={item.id} data-stock={item.name}>
              <OneStock item={item} steward={steward} />
            </li>
          ))}
        </ul>
      </section>
    </>
  )
}

function OneStock({ item, steward }: { item: Stock; steward: boolean }) {
  const { time } = useSession()
  const machines = useMachines()
  const [open, setOpen] = useState<'change' | 'describe' | null>(null)
  const machine = machines.data?.find((m) => m.id === item.machineId)?.name
  const close = () => setOpen(null)
  return (
    <>
      <h2>
        <Urgency of={item.low ? 2 : 1} /> {item.name}, {item.unit}: {item.stock}
      </h2>
      {item.low && (
        <p>
          <b>
            To be ordered{item.supplier && ` from ${item.supplier}`}: at {item.reorder} or less.
          </b>
        </p>
      )}
      <p className="small">
        {machine && `For ${machine}. `}
        {item.place && `Kept: ${item.place}. `}
        {item.batch && `Batch ${item.batch}${item.lastIn ? `, in on ${time.date(item.lastIn)}` : ''}. `}
        Used: {item.waste}.
      </p>
      {open === null && (
        <div className={css.taps}>
          {item.mayChange && (
            <button type="button" className="quietlink" onClick={() => setOpen('change')}>
              In, out or counted<span className="visually-hidden">: {item.name}</span>
            </button>
          )}
          {steward && (
            <button type="button" className="quietlink" onClick={() => setOpen('describe')}>
              Change its description<span className="visually-hidden">: {item.name}</span>
            </button>
          )}
        </div>
      )}
      {open === 'change' && <Change item={item} close={close} />}
      {open === 'describe' && <Describe item={item} close={close} />}
    </>
  )
}

const kinds = [
  ['cameIn', 'came in'],
  ['usedUp', 'used up outside a task'],
  ['counted', 'counted on the shelf'],
] as const
type Kind = (typeof kinds)[number][0]

function Change({ item, close }: { item: Stock; close: () => void }) {
  const [kind, setKind] = useState<Kind>('cameIn')
  const [amount, setAmount] = useState('')
  const [batch, setBatch] = useState('')
  const act = useAction(
    () =>
      answer(
        client.POST('/api/upkeep/stock/{id}/changes', {
          params: { path: { id: item.id } },
          body: { kind, amount: numberOf(amount), batch: kind === 'cameIn' ? batch || null : null },
        }),
      ),
    close,
  )
  const errors = fieldErrors(act.error)
  return (
    <Act act={act} button="Save" fields={['kind', 'amount', 'batch']}>
      <SelectField
        id={`kind-${item.id}`}
        label="What happened"
        error={errors.kind}
        value={kind}
        put={setKind}
        options={kinds}
      />
      <TextField
        id={`amount-${item.id}`}
        label={kind === 'counted' ? `There, ${item.unit}` : `How much, ${item.unit}`}
        inputMode="decimal"
        error={errors.amount}
        value={amount}
        put={setAmount}
      />
      {kind === 'cameIn' && (
        <TextField
          id={`batch-${item.id}`}
          label="Batch on the package (may stay empty)"
          error={errors.batch}
          value={batch}
          put={setBatch}
        />
      )}
      <Button size="sm" variant="outline-primary" className="me-2" onClick={close}>
        Cancel
      </Button>
    </Act>
  )
}

function Describe({ item, close }: { item?: Stock; close: () => void }) {
  const [name, setName] = useState(item?.name ?? '')
  const [unit, setUnit] = useState(item?.unit ?? 'pieces')
  const [part, setPart] = useState<NonNullable<Stock['part']> | ''>(item?.part ?? '')
  const [machineId, setMachine] = useState(item?.machineId ?? '')
  const [place, setPlace] = useState(item?.place ?? '')
  const [supplier, setSupplier] = useState(item?.supplier ?? '')
  const [reorder, setReorder] = useState(item ? String(item.reorder) : '')
  const [waste, setWaste] = useState(item?.waste ?? '')
  const act = useAction(() => {
    const body = {
      version: item?.version ?? null,
      name,
      unit,
      part: part || null,
      machineId: machineId || null,
      place,
      supplier,
      reorder: numberOf(reorder),
      waste,
    }
    return item
      ? answer(client.PUT('/api/upkeep/stock/{id}', { params: { path: { id: item.id } }, body }))
      : answer(client.POST('/api/upkeep/stock', { body }))
  }, close)
  const end = useAction(
    () => answer(client.DELETE('/api/upkeep/stock/{id}', { params: { path: { id: item?.id ?? '' } } })),
    close,
  )
  const errors = fieldErrors(act.error)
  const id = item?.id ?? 'new'
  return (
    <Act
      act={act}
      button={item ? 'Save the description' : 'Add it'}
      fields={['name', 'unit', 'part', 'machineId', 'place', 'supplier', 'reorder', 'waste']}
    >
      <div className={css.plan}>
        <TextField id={`stock-name-${id}`} label="What it is" error={errors.name} value={name} put={setName} />
        <TextField id={`stock-unit-${id}`} label="Counted in" error={errors.unit} value={unit} put={setUnit} />
        <SelectField
          id={`stock-part-${id}`}
          label="Offered with tasks about"
          error={errors.part}
          value={part}
          put={setPart}
          options={[['', 'nothing'], ...parts]}
        />
        <MachineField
          id={`stock-machine-${id}`}
          label="For"
          first="any machine"
          error={errors.machineId}
          value={machineId}
          put={setMachine}
        />
        <TextField
          id={`stock-reorder-${id}`}
          label="Ordered at so much or less"
          inputMode="decimal"
          error={errors.reorder}
          value={reorder}
          put={setReorder}
        />
        <TextField
          id={`stock-place-${id}`}
          label="Where it is kept"
          error={errors.place}
          value={place}
          put={setPlace}
        />
        <TextField
          id={`stock-supplier-${id}`}
          label="Where it comes from"
          error={errors.supplier}
          value={supplier}
          put={setSupplier}
        />
        <TextField
          id={`stock-waste-${id}`}
          label="Where the used one goes"
          error={errors.waste}
          value={waste}
          put={setWaste}
        />
      </div>
      <Button size="sm" variant="outline-primary" className="me-2" onClick={close}>
        Cancel
      </Button>
      {item && (
        <Button
          size="sm"
          variant="outline-primary"
          className="me-2"
          disabled={end.isPending}
          onClick={() => end.mutate()}
        >
          Keep it no longer
        </Button>
      )}
      <Failure error={end.error} />
    </Act>
  )
}
