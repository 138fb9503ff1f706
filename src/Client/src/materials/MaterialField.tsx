import Form from 'react-bootstrap/Form'
import { Field } from '../shared/parts'
import { useMaterials } from '../shared/session'

/** A choice among the materials of the list. */
export function MaterialField({
  id,
  label,
  error,
  value,
  put,
}: {
  id: string
  label: string
  error?: string[]
  value: string
  put: (value: string) => void
}) {
  const materials = useMaterials()
  return (
    <Field id={id} label={label} error={error}>
      <Form.Select id={id} value={value} isInvalid={!!error} onChange={(e) => put(e.target.value)}>
        <option value="">Choose a material</option>
        {materials.data?.map((m) => (
          <option key={m.id} value={m.id}>
            {m.name}
          </option>
        ))}
      </Form.Select>
    </Field>
  )
}
