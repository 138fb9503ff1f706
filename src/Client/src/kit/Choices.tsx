import Form from 'react-bootstrap/Form'

/** A question with several answers that may hold together. */
export function Choices<T extends string>({
  id,
  label,
  options,
  chosen,
  put,
  error,
}: {
  id: string
  label: string
  options: readonly (readonly [T, string])[]
  chosen: T[]
  put: (chosen: T[]) => void
  error?: string[]
}) {
  return (
    <fieldset className="mb-2" aria-describedby={error ? `${id}-error` : undefined}>
      <legend className="form-label">{label}</legend>
      {options.map(([value, name]) => (
        <Form.Check
          inline
          key={value}
          id={`${id}-${value}`}
          label={name}
          checked={chosen.includes(value)}
          onChange={() => put(chosen.includes(value) ? chosen.filter((c) => c !== value) : [...chosen, value])}
        />
      ))}
      {error && (
        <div className="invalid-feedback d-block" id={`${id}-error`} role="alert">
          {error.join(' ')}
        </div>
      )}
    </fieldset>
  )
}
