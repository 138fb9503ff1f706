import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { usualRow, type Day, type SheetRow } from './sheetValues'
import type { FieldProps } from './SheetForm'

const week = ['monday', 'tuesday', 'wednesday', 'thursday', 'friday', 'saturday', 'sunday']

/** Opening hours of the seven days; equal times mean closed. */
export function Hours({ field, value, set, id }: FieldProps) {
  const days = value as Day[]
  const of = (day: string) => days.find((d) => d.day === day) ?? { day, opens: '00:00', closes: '00:00' }
  const change = (changed: Day) => set(week.map((day) => (day === changed.day ? changed : of(day))))
  return (
    <table className="plain hours" id={id} aria-label={field.label}>
      <tbody>
        {week.map((day) => {
          const { opens, closes } = of(day)
          return (
            <tr key={day}>
              <th scope="row">{day}</th>
              <td>
                <Form.Control
                  inputMode="numeric"
                  placeholder="10:00"
                  aria-label={`${day} opens`}
                  value={opens.slice(0, 5)}
                  onChange={(e) => change({ day, opens: e.target.value, closes: closes.slice(0, 5) })}
                />
              </td>
              <td>
                <Form.Control
                  inputMode="numeric"
                  placeholder="10:00"
                  aria-label={`${day} closes`}
                  value={closes.slice(0, 5)}
                  onChange={(e) => change({ day, opens: opens.slice(0, 5), closes: e.target.value })}
                />
              </td>
              <td className="quiet">{opens.slice(0, 5) === closes.slice(0, 5) ? 'closed' : ''}</td>
            </tr>
          )
        })}
      </tbody>
    </table>
  )
}

const meanings = ['cut', 'score', 'engrave', 'ignore']

/** Stroke colours with what each stands for. */
export function Colours({
  label,
  value,
  set,
  id,
}: {
  label: string
  value: Record<string, string>
  set: (value: Record<string, string>) => void
  id: string
}) {
  const pairs = Object.entries(value)
  const put = (next: [string, string][]) => set(Object.fromEntries(next))
  return (
    <div id={id} role="group" aria-label={label}>
      {pairs.map(([colour, meaning], i) => (
        <div key={i} className="colourrow">
          <input
            type="color"
            aria-label={`Colour ${i + 1}`}
            value={colour}
            onChange={(e) => put(pairs.map((p, j) => (j === i ? [e.target.value, meaning] : p)))}
          />
          <code>{colour}</code>
          <Form.Select
            aria-label={`${colour} stands for`}
            value={meaning}
            onChange={(e) => put(pairs.map((p, j) => (j === i ? [colour, e.target.value] : p)))}
          >
            {meanings.map((m) => (
              <option key={m}>{m}</option>
            ))}
          </Form.Select>
          <button type="button" className="quietlink" onClick={() => put(pairs.filter((_, j) => j !== i))}>
            Remove
          </button>
        </div>
      ))}
      <Button size="sm" variant="outline-primary" onClick={() => put([...pairs, [unused(pairs), 'cut']])}>
        Add a colour
      </Button>
    </div>
  )
}

const unused = (pairs: [string, string][]) =>
  ['#8a4fa0', '#3f7d6b', '#a06a2c', '#6b7f94', '#a85a72', '#5f6b2e'].find((c) => !pairs.some(([p]) => p === c)) ??
  '#101010'

/** Rows of parts, such as the stop devices of a machine. */
export function Rows({ field, value, set, errors, id }: FieldProps) {
  const rows = Array.isArray(value) ? (value as SheetRow[]) : []
  const parts = field.parts ?? []
  const change = (at: number, key: string, part: string | boolean) =>
    set(rows.map((row, i) => (i === at ? { ...row, [key]: part } : row)))
  return (
    <div id={id} role="group" aria-label={field.label}>
      {rows.map((row, i) => (
        <fieldset key={i} className="rowfield">
          <legend className="visually-hidden">
            {field.label} {i + 1}
          </legend>
          {parts.map((part) => {
            const wrong = errors[`${field.key}[${i}].${part.key}`]
            return part.kind === 'flag' ? (
              <Form.Check
                key={part.key}
                id={`${id}-${i}-${part.key}`}
                label={part.label}
                checked={row[part.key] === true}
                onChange={(e) => change(i, part.key, e.target.checked)}
              />
            ) : (
              <div key={part.key}>
                <Form.Control
                  aria-label={`${part.label} ${i + 1}`}
                  placeholder={part.label}
                  value={String(row[part.key] ?? '')}
                  isInvalid={!!wrong}
                  onChange={(e) => change(i, part.key, e.target.value)}
                />
                {wrong && <p className="invalid-feedback">{wrong.join(' ')}</p>}
              </div>
            )
          })}
          <button type="button" className="quietlink" onClick={() => set(rows.filter((_, j) => j !== i))}>
            Remove
          </button>
        </fieldset>
      ))}
      <Button size="sm" variant="outline-primary" onClick={() => set([...rows, usualRow(field)])}>
        Add {rows.length === 0 ? 'one' : 'another'}
      </Button>
    </div>
  )
}
