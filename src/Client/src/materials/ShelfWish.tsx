import Form from 'react-bootstrap/Form'
import type { Schemas } from '../kit/api'
import { useSession } from '../kit/session'
import type { ShelfWish } from './materialQueries'
import rulingsCss from './rulings.module.css'

/** One sentence that narrows the shelf: what may I do where, how thick, and as of which day. */
export function ShelfWishes({
  wish,
  put,
  machines,
  error,
}: {
  wish: ShelfWish
  put: (changed: Partial<ShelfWish>) => void
  machines: Schemas['MachineResponse'][]
  error?: string[]
}) {
  const { time, now } = useSession()
  return (
    <div className={rulingsCss.shelfwish} role="search" aria-label="Narrow the shelf">
      <span>What may I</span>
      <Form.Select
        size="sm"
        aria-label="Operation"
        value={wish.operation}
        onChange={(e) => put({ operation: e.target.value as ShelfWish['operation'] })}
      >
        {['cut', 'score', 'engrave'].map((o) => (
          <option key={o}>{o}</option>
        ))}
      </Form.Select>
      <span>on</span>
      <Form.Select
        size="sm"
        aria-label="Machine"
        value={wish.machine}
        onChange={(e) => put({ machine: e.target.value })}
      >
        <option value="">any machine</option>
        {machines.map((m) => (
          <option key={m.id} value={m.id}>
            {m.name}
          </option>
        ))}
      </Form.Select>
      <span>at</span>
      <Form.Control
        size="sm"
        aria-label="Thickness"
        placeholder="any thickness"
        value={wish.thickness}
        isInvalid={!!error}
        onChange={(e) => put({ thickness: e.target.value })}
      />
      <span>
        , as it {wish.on && wish.on < time.iso(now()) ? 'held' : wish.on > time.iso(now()) ? 'will hold' : 'holds'} on
      </span>
      <Form.Control
        size="sm"
        type="date"
        aria-label="Day"
        value={wish.on || time.iso(now())}
        onChange={(e) => put({ on: e.target.value === time.iso(now()) ? '' : e.target.value })}
      />
      {error && (
        <span className="invalid-feedback d-block" role="alert">
          {error.join(' ')}
        </span>
      )}
    </div>
  )
}
