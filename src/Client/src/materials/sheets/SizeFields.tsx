import { TextField } from '../../kit/parts'
import type { Unit } from '../../kit/units'

export interface Size {
  thickness: string
  width: string
  height: string
}

const sides = [
  ['thickness', 'Measured thickness'],
  ['width', 'Width'],
  ['height', 'Height'],
] as const

/** A sheet's three lengths, in any unit that is typed. */
export function SizeFields({
  id,
  unit,
  draft,
  put,
  errors,
}: {
  id: string
  unit: Unit
  draft: Size
  put: (changed: Partial<Size>) => void
  errors: Record<string, string[]>
}) {
  return sides.map(([key, label]) => (
    <TextField
      key={key}
      id={`${id}${key}`}
      label={label}
      error={errors[key]}
      placeholder={unit}
      value={draft[key]}
      put={(value) => put({ [key]: value })}
    />
  ))
}
