import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { answer, client, type Schemas } from '../shared/api'
import { Failure, fieldErrors, TextField } from '../shared/parts'
import { useMachines } from '../shared/session'
import { operationNames } from './words'

const toggle = <T,>(list: T[], value: T) => (list.includes(value) ? list.filter((x) => x !== value) : [...list, value])

/** A steward says what a sheet is cleared for, on what they saw. */
export function Clear({ sheet }: { sheet: Schemas['SheetDetail'] }) {
  const machines = useMachines()
  const [operations, setOperations] = useState<Schemas['Operation'][]>(['cut', 'score', 'engrave'])
  const [machineIds, setMachineIds] = useState<string[]>([])
  const [until, setUntil] = useState(sheet.lastDay ?? '')
  const [seen, setSeen] = useState('')
  const [wholeBatch, setWholeBatch] = useState(false)
  const queries = useQueryClient()
  const clear = useMutation({
    mutationFn: () =>
      answer(
        client.POST('/api/sheets/{tag}/clear', {
          params: { path: { tag: sheet.tag } },
          body: { operations, machineIds, until, seen, wholeBatch },
        }),
      ),
    onSuccess: () => queries.invalidateQueries({ queryKey: ['live'] }),
  })
  const errors = fieldErrors(clear.error)
  return (
    <details open={!sheet.cleared}>
      <summary>{sheet.cleared ? 'Clear it anew' : 'Clear it'}</summary>
      <fieldset>
        <legend className="form-label">For</legend>
        {operationNames.map(([operation, name]) => (
          <Form.Check
            inline
            key={operation}
            id={`clear-${operation}`}
            label={name}
            checked={operations.includes(operation)}
            onChange={() => setOperations(toggle(operations, operation))}
          />
        ))}
        {errors.operations && <div className="invalid-feedback d-block">{errors.operations.join(' ')}</div>}
      </fieldset>
      <fieldset>
        <legend className="form-label">On these machines; none chosen means every one</legend>
        {machines.data?.map((m) => (
          <Form.Check
            inline
            key={m.id}
            id={`clear-on-${m.id}`}
            label={m.name}
            checked={machineIds.includes(m.id)}
            onChange={() => setMachineIds(toggle(machineIds, m.id))}
          />
        ))}
      </fieldset>
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
