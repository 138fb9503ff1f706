import './machines.css'
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState, type SubmitEvent } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { answer, client, type Schemas } from '../shared/api'
import { Failure, Field, fieldErrors, Loading, PageHead, RunOn } from '../shared/parts'
import { hasRole, useMachines, useSession } from '../shared/session'
import { lengthIn, useUnit } from '../shared/units'
import { Standing } from '../shared/Standing'
import { Upkeep } from './Upkeep'

/** The machines, and the one press that stops each. */
export function MachinesPage() {
  const machines = useMachines()
  return (
    <>
      <PageHead title="Machines" sub="Anyone may stop a machine. A steward returns it to service." />
      {machines.isPending && <Loading what="the machines" />}
      <Failure error={machines.error} retry={() => void machines.refetch()} />
      <ul className="machines">
        {machines.data?.map((m) => (
          <Machine key={m.id} machine={m} />
        ))}
      </ul>
    </>
  )
}

const framings: Record<NonNullable<Schemas['MachineResponse']['framing']>, string> = {
  pointerLidOpen: 'lid open, pointer only',
  pointerLidShut: 'lid shut, pointer only',
  beamOffLidShut: 'lid shut, high voltage off',
  byHand: 'by hand, beam off',
}

function Machine({ machine }: { machine: Schemas['MachineResponse'] }) {
  const { me, time } = useSession()
  const unit = useUnit()
  const kind = { co2: 'CO₂ gas, 10.6 µm, invisible', diode: 'blue diode, 450 nm', fibre: 'fibre, 1064 nm, invisible' }[
    machine.kind
  ]
  const air = {
    ducted: 'ducted outdoors',
    filtered: 'filtered, back into the room: a filter removes no carbon monoxide',
    both: 'filtered and ducted',
  }[machine.extraction]
  const size = (across: number, down: number) => `${lengthIn(unit, across)} × ${lengthIn(unit, down)} ${unit}`
  return (
    <li data-machine={machine.id}>
      <div>
        <h2>{machine.name}</h2>
        {machine.stop ? <Standing standing="shut" word="Stopped" /> : <Standing standing="clear" word="In service" />}
      </div>
      <dl>
        <dt>Laser</dt>
        <dd>
          {machine.powerW} W, {kind}, class {machine.laserClass}
        </dd>
        <dt>Bed</dt>
        <dd>
          {size(machine.bedWidthMm, machine.bedHeightMm)}, usable {size(machine.usableWidthMm, machine.usableHeightMm)}
        </dd>
        <dt>Cuts</dt>
        <dd>{machine.maxCutMm > 0 ? `to ${lengthIn(unit, machine.maxCutMm)} ${unit}` : 'nothing: it marks'}</dd>
        <dt>Extraction</dt>
        <dd>{air}</dd>
        <dt>Lid after a run</dt>
        <dd>
          {machine.lidShutSeconds == null
            ? 'stays shut: the airflow was never measured'
            : `stays shut ${machine.lidShutSeconds} s at least, and until no smoke is to be seen`}
        </dd>
        <dt>Home corner</dt>
        <dd>{machine.homeCorner}</dd>
        {machine.focusMethods.length > 0 && (
          <>
            <dt>Focus</dt>
            <dd>{machine.focusMethods.join(', ')}</dd>
          </>
        )}
        {machine.framing && (
          <>
            <dt>Framing</dt>
            <dd>{framings[machine.framing]}</dd>
          </>
        )}
        {machine.fixtures.length > 0 && (
          <>
            <dt>Fixtures</dt>
            <dd>{machine.fixtures.join(', ')}</dd>
          </>
        )}
      </dl>
      <div>
        {machine.stop ? (
          <>
            <p>
              Stopped {time.moment(machine.stop.since)} by {machine.stop.by}: {machine.stop.reason}
            </p>
            {hasRole(me, 'steward') ? (
              <ReasonAct machine={machine} stop={machine.stop.id} />
            ) : (
              <p className="small quiet">A steward returns it to service.</p>
            )}
          </>
        ) : (
          <ReasonAct machine={machine} />
        )}
        <Upkeep machineId={machine.id} />
      </div>
    </li>
  )
}

/** The machines in service, each to be stopped, where nothing else of them is shown. */
export function StopMachines() {
  const machines = useMachines()
  return (
    <section className="sheetgroup">
      <RunOn title="Something wrong at a machine" />
      <ul className="plainlist">
        {machines.data?.map((m) => (
          <li key={m.id}>
            {m.stop ? `${m.name} is stopped. ` : <ReasonAct machine={m} />} <a href={`/emergency/${m.id}`}>Its card</a>
          </li>
        ))}
      </ul>
    </section>
  )
}

/** One press and a sentence: stops a machine, or returns it where a stop is given. */
function ReasonAct({ machine, stop }: { machine: Schemas['MachineResponse']; stop?: string }) {
  const [open, setOpen] = useState(false)
  const [reason, setReason] = useState('')
  const [optics, setOptics] = useState<boolean | null>(null)
  const [noted, setNoted] = useState<string | null>(null)
  const queries = useQueryClient()
  const act = useMutation({
    mutationFn: (): Promise<unknown> =>
      stop
        ? answer(
            client.POST('/api/machines/{id}/return', {
              params: { path: { id: machine.id } },
              body: { reason, opticsTouched: optics },
            }),
          )
        : answer(client.POST('/api/machines/{id}/stops', { params: { path: { id: machine.id } }, body: { reason } })),
    onSuccess: async (answered) => {
      setNoted((answered as Schemas['HoldResponse'] | undefined)?.text ?? null)
      setOpen(false)
      setReason('')
      await queries.invalidateQueries({ queryKey: ['live'] })
    },
  })
  const errors = fieldErrors(act.error)
  const verb = stop ? 'Return' : 'Stop'
  if (!open)
    return (
      <>
        {stop && noted && <p role="status">{noted}</p>}
        <Button variant={stop ? 'outline-primary' : 'danger'} onClick={() => setOpen(true)}>
          {verb} {machine.name}
          {stop ? ' to service' : ''}
        </Button>
      </>
    )
  return (
    <Form
      noValidate
      onSubmit={(event: SubmitEvent) => {
        event.preventDefault()
        act.mutate()
      }}
    >
      <Field
        label={stop ? 'What was done and checked' : 'What is wrong'}
        id={`reason-${machine.id}`}
        error={errors.reason}
      >
        <Form.Control
          id={`reason-${machine.id}`}
          autoFocus
          value={reason}
          isInvalid={!!errors.reason}
          onChange={(event) => setReason(event.target.value)}
        />
      </Field>
      {stop && (
        <fieldset className="mb-2">
          <legend className="form-label">Were lens, mirrors, tube or alignment touched?</legend>
          {([true, false] as const).map((touched) => (
            <Form.Check
              key={String(touched)}
              type="radio"
              name={`optics-${machine.id}`}
              id={`optics-${machine.id}-${touched}`}
              label={touched ? 'Yes, or nobody is sure: settings are tested again' : 'No'}
              checked={optics === touched}
              onChange={() => setOptics(touched)}
            />
          ))}
        </fieldset>
      )}
      {act.isError && !errors.reason && <Failure error={act.error} />}
      <div className="d-flex gap-2">
        <Button
          type="submit"
          variant={stop ? 'primary' : 'danger'}
          disabled={act.isPending || (!!stop && optics === null)}
        >
          {verb} {machine.name} now
        </Button>
        <Button variant="outline-primary" onClick={() => setOpen(false)}>
          Cancel
        </Button>
      </div>
    </Form>
  )
}
