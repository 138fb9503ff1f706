import Form from 'react-bootstrap/Form'

/** One word of the question, chosen from a list. */
export function Choice({
  label,
  value,
  put,
  none,
  options,
}: {
  label: string
  value: string
  put: (value: string) => void
  none?: string
  options: readonly { id: string; name: string }[]
}) {
  return (
    <Form.Select size="sm" aria-label={label} value={value} onChange={(e) => put(e.target.value)}>
      {none && <option value="">{none}</option>}
      {options.map((o) => (
        <option key={o.id} value={o.id}>
          {o.name}
        </option>
      ))}
    </Form.Select>
  )
}
