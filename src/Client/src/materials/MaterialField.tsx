import { SelectField } from '../kit/parts'
import { useMaterials } from '../kit/session'

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
    <SelectField
      id={id}
      label={label}
      value={value}
      put={put}
      options={[['', 'Choose a material'], ...(materials.data ?? []).map((m) => [m.id, m.name] as const)]}
      error={error}
    />
  )
}
