import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { Act, useAction } from '../kit/Act'
import { answer, client, type Schemas } from '../kit/api'
import { MachineField } from '../kit/MachineField'
import { Failure, Field, fieldErrors, SelectField, TextField } from '../kit/parts'
import { numberOf } from './numbers'
import css from './upkeep.module.css'

type Task = Schemas['UpkeepResponse']

const counters = [
  ['days', 'days'],
  ['runs', 'runs'],
  ['laserHours', 'hours of runs'],
  ['weightedHours', 'hours, more for heavy residue'],
  ['airflow', 'airflow, % of commissioning'],
] as const
export const parts = [
  ['lens', 'lens'],
  ['mirrors', 'mirrors'],
  ['nozzle', 'nozzle'],
  ['bed', 'bed and tray'],
  ['airflow', 'airflow'],
  ['filter', 'filter'],
  ['carbon', 'carbon stage'],
  ['duct', 'duct'],
  ['coolant', 'coolant'],
  ['interlocks', 'interlocks'],
  ['electrical', 'wiring'],
  ['fireKit', 'fire kit and eyewear'],
  ['other', 'something else'],
] as const
const whos = [
  ['member', 'whoever may run the machine'],
  ['trainer', 'trainers and stewards'],
  ['repairer', 'its repairer alone'],
] as const

const blank = {
  name: '',
  part: 'other' as Task['part'],
  counter: 'days' as Task['counter'],
  limit: '',
  slip: '0',
  who: 'trainer' as Task['who'],
  steps: '',
  kit: '',
  basis: '',
}

const written = (t: Omit<Schemas['UpkeepMethodResponse'], 'unit'> & { plannedWho?: Task['who'] }) => ({
  name: t.name,
  part: t.part,
  counter: t.counter,
  limit: String(t.limit),
  slip: String(t.slipPercent),
  // As the task says: the house’s school of practice narrows it.
  who: t.plannedWho ?? t.who,
  steps: t.steps.join('\n'),
  kit: t.kit,
  basis: t.basis,
})

/** What the house wants done: a new task, begun from a usual one or from nothing, or a change of one. */
export function PlanForm({ task, close }: { task?: Task; close: () => void }) {
  const [machineId, setMachine] = useState('')
  const [values, setValues] = useState(task ? written(task) : blank)
  const methods = useQuery({
    queryKey: ['upkeep', 'methods', machineId],
    queryFn: async ({ signal }) =>
      (await answer(client.GET('/api/upkeep/methods', { params: { query: { machineId } }, signal }))).items,
    enabled: !task,
  })
  const put =
    <K extends keyof typeof values>(key: K) =>
    (value: (typeof values)[K]) =>
      setValues((v) => ({ ...v, [key]: value }))
  const act = useAction(() => {
    const body = {
      machineId: machineId || null,
      version: task?.version ?? null,
      name: values.name,
      part: values.part,
      counter: values.counter,
      limit: numberOf(values.limit),
      slipPercent: numberOf(values.slip),
      who: values.who,
      steps: values.steps.split('\n'),
      kit: values.kit,
      basis: values.basis,
    }
    return task
      ? answer(client.PUT('/api/upkeep/{id}', { params: { path: { id: task.id } }, body }))
      : answer(client.POST('/api/upkeep', { body }))
  }, close)
  const end = useAction(
    () => answer(client.DELETE('/api/upkeep/{id}', { params: { path: { id: task?.id ?? '' } } })),
    close,
  )
  const errors = fieldErrors(act.error)
  const id = task?.id ?? 'new'
  return (
    <Act
      act={act}
      button={task ? 'Save the task' : 'Add the task'}
      fields={['machineId', 'name', 'part', 'counter', 'limit', 'slipPercent', 'who', 'steps', 'kit', 'basis']}
    >
      <div className={css.plan}>
        {!task && (
          <>
            <MachineField
              id="plan-machine"
              label="Of"
              first="the room"
              error={errors.machineId}
              value={machineId}
              put={setMachine}
            />
            <Field label="Begin with" id="plan-method">
              <Form.Select
                id="plan-method"
                defaultValue=""
                onChange={(e) => {
                  const method = methods.data?.find((m) => m.name === e.target.value)
                  setValues(method ? written(method) : blank)
                }}
              >
                <option value="">nothing</option>
                {methods.data?.map((m) => (
                  <option key={m.name}>{m.name}</option>
                ))}
              </Form.Select>
            </Field>
          </>
        )}
        <TextField id={`plan-name-${id}`} label="Task" error={errors.name} value={values.name} put={put('name')} />
        <SelectField
          id={`plan-part-${id}`}
          label="About"
          error={errors.part}
          value={values.part}
          put={put('part')}
          options={parts}
        />
        <SelectField
          id={`plan-counter-${id}`}
          label="Counts"
          error={errors.counter}
          value={values.counter}
          put={put('counter')}
          options={counters}
        />
        <TextField
          id={`plan-limit-${id}`}
          label={values.counter === 'airflow' ? 'Due below, %' : 'Due after'}
          error={errors.limit}
          inputMode="decimal"
          value={values.limit}
          put={put('limit')}
        />
        <TextField
          id={`plan-slip-${id}`}
          label="May slip by, % (then a steward is asked)"
          error={errors.slipPercent}
          inputMode="decimal"
          value={values.slip}
          put={put('slip')}
        />
        <SelectField
          id={`plan-who-${id}`}
          label="Done by"
          error={errors.who}
          value={values.who}
          put={put('who')}
          options={whos}
        />
        <TextField
          id={`plan-steps-${id}`}
          label="Steps, one a line"
          error={errors.steps}
          rows={4}
          value={values.steps}
          put={put('steps')}
        />
        <TextField
          id={`plan-kit-${id}`}
          label="What is needed, and where it is kept"
          error={errors.kit}
          value={values.kit}
          put={put('kit')}
        />
        <TextField
          id={`plan-basis-${id}`}
          label="Where the limit comes from"
          error={errors.basis}
          value={values.basis}
          put={put('basis')}
        />
      </div>
      <Button size="sm" variant="outline-primary" className="me-2" onClick={close}>
        Cancel
      </Button>
      {task && (
        <Button
          size="sm"
          variant="outline-primary"
          className="me-2"
          disabled={end.isPending}
          onClick={() => end.mutate()}
        >
          Take the task off the board
        </Button>
      )}
      <Failure error={end.error} />
    </Act>
  )
}
