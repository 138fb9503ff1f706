import { SelectField } from './parts'
import { useMachines } from './session'

/** The choice of a machine of the house, by its name. */
export function MachineField({
  first,
  ...field
}: {
  id: string
  label: string
  error?: string[]
  value: string
  put: (machineId: string) => void
  /** What stands before the machines, for none of them. */
  first?: string
}) {
  const machines = useMachines()
  const names = (machines.data ?? []).map((m) => [m.id, m.name] as const)
  return <SelectField {...field} options={first === undefined ? names : [['', first], ...names]} />
}
