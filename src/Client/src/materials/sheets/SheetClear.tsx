import { useAction } from '../../kit/Act'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { answer, client, type Schemas } from '../../kit/api'
import { Choices } from '../../kit/Choices'
import { Failure, fieldErrors, TextField } from '../../kit/parts'
import { useMachines } from '../../kit/session'
import { operationNames } from '../words'

/** A steward says what a sheet is cleared for, on what they saw. */
export function Clear({ sheet }: { sheet: Schemas['SheetDetail'] }) {
  const machines = useMachines()
  const [operations, setOperations] = useState<Schemas['Operation'][]>(['cut', 'score', 'engrave'])
  const [machineIds, setMachineIds] = useState<string[]>([])
  const [until, setUntil] = useState(sheet.lastDay ?? '')
  const [seen, setSeen] = useState('')
  const [wholeBatch, setWholeBatch] = useState(false)
  const clear = useAction(() =>
    answer(
      client.POST('/api/sheets/{tag}/clear', {
        params: { path: { tag: sheet.tag } },
        body: { operations, machineIds, until, seen, wholeBatch },
      }),
    ),
  )
  const errors = fieldErrors(clear.error)
  return (
    <details open={!sheet.cleared}>
      <summary>{sheet.cleared ? 'Clear it anew' : 'Clear it'}</summary>
      <Choices
        id="clear"
        label="For"
        options={operationNames}
        chosen={operations}
        put={setOperations}
        error={errors.operations}
      />
      <Choices
        id="clear-on"
        label="On these machines; none chosen means every one"
        options={machines.data?.map((m) => [m.id, m.name] as const) ?? []}
        chosen={machineIds}
        put={setMachineIds}
        error={errors.machineIds}
      />
      <TextField id="clear-until" label="Last day" error={errors.until} type="date" value={until} put={setUntil} />
      <TextField
        id="clear-seen"
        label="What you saw: label, order page, data sheet"
        error={errors.seen}
        rows={2}
        value={seen}
        put={setSeen}
      />
      {sheet.batch && (
        <Form.Check
          id="clear-batch"
          label={`All of batch ${sheet.batch} that wait`}
          checked={wholeBatch}
          onChange={(e) => setWholeBatch(e.target.checked)}
        />
      )}
      {clear.isError && Object.keys(errors).length === 0 && <Failure error={clear.error} />}
      {clear.data && <p role="status">Cleared: {clear.data.tags.join(', ')}.</p>}
      <Button size="sm" disabled={clear.isPending} onClick={() => clear.mutate()}>
        Clear {sheet.tag}
      </Button>
    </details>
  )
}
