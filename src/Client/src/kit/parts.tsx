import type { InputHTMLAttributes, ReactNode } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import type { FormControlProps } from 'react-bootstrap/FormControl'
import { ApiError } from './api'

/** The head of a page: its name, one line of what it is, and its tools. */
export function PageHead({ title, sub, children }: { title: string; sub?: ReactNode; children?: ReactNode }) {
  return (
    <header className="head">
      <h1>{title}</h1>
      {sub && <div className="sub">{sub}</div>}
      {children && <div className="tools">{children}</div>}
    </header>
  )
}

/** A section's heading with a hairline running on from it. */
export function RunOn({ title, after, id }: { title: string; after?: ReactNode; id?: string }) {
  return (
    <div className="run-on">
      <h2 id={id}>{title}</h2>
      {after !== undefined && <span className="after">{after}</span>}
    </div>
  )
}

/** Scooped corners: for things that could be printed. */
export function Ticket({ children, label }: { children: ReactNode; label: string }) {
  return (
    <section className="ticket" aria-label={label}>
      {children}
    </section>
  )
}

/** A number with its unit. */
export function Figure({ value, unit }: { value: number | string; unit: string }) {
  return (
    <span className="figure">
      {value}
      <span>{unit}</span>
    </span>
  )
}

/** A label, its field, and the sentence that names the fix. */
export function Field({
  label,
  error,
  children,
  id,
}: {
  label: string
  error?: string[]
  children: ReactNode
  id: string
}) {
  return (
    <div className="mb-2">
      <label className="form-label" htmlFor={id}>
        {label}
      </label>
      {children}
      {error && (
        <div className="invalid-feedback" id={`${id}-error`} role="alert">
          {error.join(' ')}
        </div>
      )}
    </div>
  )
}

/** A labelled field that is typed into, with what is wrong said below it. With `rows` it has several lines. */
export function TextField({
  label,
  error,
  put,
  ...rest
}: {
  id: string
  label: string
  error?: string[]
  value: string
  put: (value: string) => void
  rows?: number
} & Pick<FormControlProps, 'type' | 'size' | 'placeholder' | 'autoComplete' | 'autoFocus'> &
  Pick<
    InputHTMLAttributes<HTMLInputElement>,
    'inputMode' | 'min' | 'max' | 'step' | 'maxLength' | 'required' | 'list'
  >) {
  return (
    <Field id={rest.id} label={label} error={error}>
      <Form.Control
        {...rest}
        aria-describedby={error ? `${rest.id}-error` : undefined}
        as={rest.rows ? 'textarea' : undefined}
        isInvalid={!!error}
        onChange={(e) => put(e.target.value)}
      />
    </Field>
  )
}

/** A labelled choice of one, with what is wrong said below it. */
export function SelectField<T extends string>({
  id,
  label,
  error,
  value,
  put,
  options,
}: {
  id: string
  label: string
  error?: string[]
  value: T
  put: (value: T) => void
  options: readonly (readonly [T, string])[]
}) {
  return (
    <Field id={id} label={label} error={error}>
      <Form.Select
        id={id}
        value={value}
        isInvalid={!!error}
        aria-describedby={error ? `${id}-error` : undefined}
        onChange={(e) => put(e.target.value as T)}
      >
        {options.map(([key, name]) => (
          <option key={key} value={key}>
            {name}
          </option>
        ))}
      </Form.Select>
    </Field>
  )
}

/** What went wrong, in the server's words; the field's own errors are shown at the field. */
export function Failure({ error, retry }: { error: unknown; retry?: () => void }) {
  if (!error) return null
  const text = error instanceof Error ? error.message : 'Something went wrong.'
  return (
    <div className="alert alert-danger" role="alert">
      {text}{' '}
      {retry && (
        <button type="button" className="quietlink" onClick={retry}>
          Try again
        </button>
      )}
    </div>
  )
}

export const fieldErrors = (error: unknown): Record<string, string[]> =>
  error instanceof ApiError ? (error.problem.errors ?? {}) : {}

/** An empty state: a coiled rope on one post, what comes next, one quiet action. */
export function Empty({
  title,
  children,
  action,
}: {
  title: string
  children: ReactNode
  action?: { text: string; onClick: () => void }
}) {
  return (
    <div className="empty">
      <svg width="84" height="98" viewBox="0 0 120 140" aria-hidden="true">
        <path d="M10 134.8H110" stroke="#2C1029" strokeWidth="1.5" />
        <g stroke="#6F4B0C" strokeWidth="1.3" strokeLinejoin="round">
          <path d="M43 134h34v-4q-3-6-13-7h-8q-10 1-13 7z" fill="#B6842A" />
          <rect x="56.5" y="22" width="7" height="101" fill="#B6842A" />
          <rect x="53.5" y="29" width="13" height="9" rx="1.5" fill="#DDB765" />
          <circle cx="60" cy="12.5" r="8.5" fill="#B6842A" />
        </g>
        {[0, 5, 10].map((d) => (
          <g key={d} fill="none" strokeLinecap="round">
            <ellipse cx="60" cy={76 + d} rx={27 - d} ry={38 - d * 2} stroke="#3C1235" strokeWidth="8" />
            <ellipse cx="60" cy={76 + d} rx={27 - d} ry={38 - d * 2} stroke="#7B2E66" strokeWidth="6" />
          </g>
        ))}
      </svg>
      <div>
        <h3>{title}</h3>
        <p>{children}</p>
        {action && (
          <Button variant="outline-primary" size="sm" onClick={action.onClick}>
            {action.text}
          </Button>
        )}
      </div>
    </div>
  )
}

/** While answers are on their way: said in words, never a spinner. */
export function Loading({ what }: { what: string }) {
  return (
    <p role="status" className="quiet">
      Loading {what} …
    </p>
  )
}

/** One to four strokes. */
export function Urgency({ of }: { of: number }) {
  const words = ['', 'can wait', 'this week', 'today', 'now']
  return (
    <>
      <svg className="urgency" width="26" height="16" viewBox="0 0 26 16" aria-hidden="true">
        {[0, 1, 2, 3].map((i) =>
          i < of ? (
            <path key={i} d={`M${3 + 6 * i} 1V15`} stroke={of === 4 ? '#A81E12' : '#24121F'} strokeWidth="3.4" />
          ) : (
            <path key={i} d={`M${3 + 6 * i} 11V15`} stroke="#5B4450" strokeWidth="1.6" />
          ),
        )}
      </svg>
      <span className="visually-hidden">{words[of]}</span>
    </>
  )
}
