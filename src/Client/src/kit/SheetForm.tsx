import './sheetform.css'
import Form from 'react-bootstrap/Form'
import type { Schemas } from './api'
import { Field, RunOn } from './parts'
import { Colours, Hours, Rows } from './SheetLists'
import { asWritten, type Sheet, type SheetValue } from './sheetValues'

type FormField = Schemas['FormField']

export interface FieldProps {
  field: FormField
  value: SheetValue
  set: (value: SheetValue) => void
  /** Sentences for this field, and by its own name for the fields inside it. */
  errors: Record<string, string[]>
  id: string
}

/** A sheet as the server describes it: groups of fields, each with its hint and the sentence that names the fix. */
export function SheetForm({
  fields,
  sheet,
  change,
  errors,
  prefix,
  locked = [],
}: {
  fields: FormField[]
  sheet: Sheet
  change: (sheet: Sheet) => void
  errors: Record<string, string[]>
  prefix: string
  locked?: string[]
}) {
  const groups = [...new Set(fields.map((f) => f.group))]
  return (
    <>
      {groups.map((group) => (
        <section key={group} className="sheetgroup">
          <RunOn title={group} />
          <div className="sheetgrid">
            {fields
              .filter((f) => f.group === group)
              .map((field) => (
                <OneField
                  key={field.key}
                  field={field}
                  value={sheet[field.key] ?? ''}
                  set={(value) => change({ ...sheet, [field.key]: value })}
                  errors={errors}
                  id={`${prefix}-${field.key}`}
                  locked={locked.includes(field.key)}
                />
              ))}
          </div>
        </section>
      ))}
    </>
  )
}

const wide = ['rows', 'hours', 'colours', 'longText']

/** What a field does that decides nothing yet, or nothing at all. */
const effects: Partial<Record<NonNullable<FormField['effect']>, string>> = {
  information: 'For information: nothing is decided by it.',
}

function Help({ field }: { field: FormField }) {
  const effect = effects[field.effect ?? 'inForce']
  return (
    <>
      {field.hint && <p className="small quiet">{field.hint}</p>}
      {effect && <p className="small quiet effect">{effect}</p>}
    </>
  )
}

function OneField(props: FieldProps & { locked: boolean }) {
  const { field, value, set, errors, id, locked } = props
  const wrong = errors[field.key]
  if (field.kind === 'flag')
    return (
      <div className="flagfield">
        <Form.Check id={id} label={field.label} checked={value === true} onChange={(e) => set(e.target.checked)} />
        <Help field={field} />
        {wrong && <p className="invalid-feedback">{wrong.join(' ')}</p>}
      </div>
    )
  return (
    <div className={wide.includes(field.kind) ? 'widefield' : undefined}>
      <Field
        id={id}
        label={`${field.label}${field.unit ? `, ${field.unit}` : ''}${field.optional ? ' (may stay empty)' : ''}`}
        error={wrong}
      >
        {field.kind === 'choice' && (
          <Form.Select id={id} value={asWritten(value)} isInvalid={!!wrong} onChange={(e) => set(e.target.value)}>
            {value === '' && <option value="">choose</option>}
            {field.choices?.map((c) => (
              <option key={c.value} value={c.value}>
                {c.text}
              </option>
            ))}
          </Form.Select>
        )}
        {field.kind === 'longText' && (
          <Form.Control
            as="textarea"
            rows={4}
            id={id}
            value={asWritten(value)}
            isInvalid={!!wrong}
            onChange={(e) => set(e.target.value)}
          />
        )}
        {['text', 'number', 'whole', 'length', 'words', 'day'].includes(field.kind) && (
          <Form.Control
            id={id}
            type={field.kind === 'day' ? 'date' : undefined}
            value={asWritten(value)}
            isInvalid={!!wrong}
            readOnly={locked}
            inputMode={field.kind === 'whole' ? 'numeric' : field.kind === 'number' ? 'decimal' : undefined}
            placeholder={field.kind === 'length' ? 'such as 3 mm or 1/8 in' : undefined}
            onChange={(e) => set(e.target.value)}
          />
        )}
        {field.kind === 'hours' && <Hours {...props} />}
        {field.kind === 'colours' && (
          <Colours label={field.label} value={value as Record<string, string>} set={set} id={id} />
        )}
        {field.kind === 'rows' && <Rows {...props} />}
      </Field>
      <Help field={field} />
    </div>
  )
}
