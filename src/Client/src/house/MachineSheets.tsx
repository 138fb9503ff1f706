import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState, type SubmitEvent } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { answer, client, type Schemas } from '../kit/api'
import { Empty, Failure, fieldErrors, RunOn } from '../kit/parts'
import { hasRole, useSession } from '../kit/session'
import { SheetForm } from '../kit/SheetForm'
import { toSheet, usualSheet, type Sheet } from '../kit/sheetValues'
import { useUnit } from '../kit/units'
import { formsQuery } from './houseQueries'

/** Everything a machine's record holds, one sheet each. */
export function MachineSheets({ sheets }: { sheets: Schemas['SheetsResponse'] }) {
  const { me } = useSession()
  const keeper = hasRole(me, 'keeper')
  const [open, setOpen] = useState<string | null>(null)
  const chosen = sheets.machines.find((m) => m.spec.id === open)
  return (
    <section>
      <RunOn title="Machines" after={sheets.machines.length} />
      {sheets.machines.length === 0 && open === null && (
        <Empty title="No machine yet" action={keeper ? { text: 'Add one', onClick: () => setOpen('new') } : undefined}>
          Label, manual and a walk round the machine give all that the form asks for.
        </Empty>
      )}
      <ul className="plainlist">
        {sheets.machines.map((m) => (
          <li key={m.spec.id}>
            <b>{m.spec.name}</b>, class {m.spec.laserClass} by its form, {m.spec.powerW} W
            {m.spec.station?.place ? `, ${m.spec.station.place}` : ''}
            {m.spec.hereFrom ? `, here from ${m.spec.hereFrom}` : ''}
            {m.spec.hereUntil ? `, here to ${m.spec.hereUntil}` : ''}.{' '}
            {keeper && (
              <button type="button" className="quietlink" onClick={() => setOpen(m.spec.id)}>
                Open the form
              </button>
            )}{' '}
            <a href={`/emergency/${m.spec.id}`}>Emergency card</a>
          </li>
        ))}
      </ul>
      {keeper && open === null && sheets.machines.length > 0 && (
        <Button variant="outline-primary" size="sm" onClick={() => setOpen('new')}>
          Add a machine
        </Button>
      )}
      {open !== null && <Edit key={open} machine={chosen} close={() => setOpen(null)} />}
    </section>
  )
}

function Edit({ machine, close }: { machine?: Schemas['MachineSheet']; close: () => void }) {
  const forms = useQuery(formsQuery)
  if (!forms.data) return null
  return <Sheets machine={machine} fields={forms.data.machine} close={close} />
}

function Sheets({
  machine,
  fields,
  close,
}: {
  machine?: Schemas['MachineSheet']
  fields: Schemas['FormField'][]
  close: () => void
}) {
  const unit = useUnit()
  const queries = useQueryClient()
  const [sheet, setSheet] = useState<Sheet>(() => (machine ? toSheet(fields, machine.spec) : usualSheet(fields)))
  const save = useMutation({
    mutationFn: (): Promise<unknown> =>
      machine
        ? answer(
            client.PUT('/api/machines/{id}', {
              params: { path: { id: machine.spec.id } },
              body: { fields: sheet as never, unit, version: machine.version },
            }),
          )
        : answer(client.POST('/api/machines', { body: { fields: sheet as never, unit } })),
    onSuccess: async () => {
      await queries.invalidateQueries({ queryKey: ['live'] })
      close()
    },
  })
  const errors = fieldErrors(save.error)
  return (
    <Form
      noValidate
      aria-label={machine ? `Form of ${machine.spec.name}` : 'A new machine'}
      onSubmit={(event: SubmitEvent) => {
        event.preventDefault()
        save.mutate()
      }}
    >
      <SheetForm
        fields={fields}
        sheet={sheet}
        change={setSheet}
        errors={errors}
        prefix="machine"
        locked={machine ? ['id'] : []}
      />
      <Failure error={save.error} />
      <div className="sheetfoot">
        <Button type="submit" disabled={save.isPending}>
          {machine ? `Write ${machine.spec.name} down` : 'Add the machine'}
        </Button>
        <Button variant="outline-primary" onClick={close}>
          Cancel
        </Button>
        <p className="small quiet mb-0">
          The maker’s manual decides; a laser safety officer reads the class. An entry here changes no machine.
        </p>
      </div>
    </Form>
  )
}
