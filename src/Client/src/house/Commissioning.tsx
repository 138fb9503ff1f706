import { useQuery } from '@tanstack/react-query'
import { useState, type ReactNode, type SubmitEvent } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { useAction } from '../kit/Act'
import { answer, client, type Schemas } from '../kit/api'
import { Empty, Failure, fieldErrors, Loading, RunOn } from '../kit/parts'
import { hasRole, useSession } from '../kit/session'
import { SheetForm } from '../kit/SheetForm'
import { asWritten, toSheet, usualSheet, type Sheet } from '../kit/sheetValues'
import { commissioningQuery } from './houseQueries'

type Machine = Schemas['MachineCommissioning']
type Fields = Schemas['FormField'][]

/** How each machine was set up, with evidence; what nobody has shown stands first. */
export function CommissioningPart() {
  const { me } = useSession()
  const all = useQuery(commissioningQuery)
  const [open, setOpen] = useState<string | null>(null)
  const keeper = hasRole(me, 'keeper')
  return (
    <section>
      <RunOn title="Commissioning" after="what was looked at, tried and measured, machine by machine" />
      {all.isPending && <Loading what="the sheets" />}
      <Failure error={all.error} retry={() => void all.refetch()} />
      {all.data?.items.length === 0 && (
        <Empty title="No machine yet">A keeper adds machines under Machine forms.</Empty>
      )}
      {all.data?.items.map((m) => (
        <OneMachine
          key={m.machineId}
          machine={m}
          fields={all.data.fields}
          edit={keeper && open === null ? () => setOpen(m.machineId) : undefined}
        >
          {open === m.machineId && (
            <Edit key={m.version} machine={m} fields={all.data.fields} close={() => setOpen(null)} />
          )}
        </OneMachine>
      ))}
      <p className="small quiet mt-3">
        A class is read from label and manual, and rests on interlocks that somebody tried. Earth, wiring and anything
        behind a panel are for licensed people; the maker’s manual and local rules come before this page.
      </p>
    </section>
  )
}

function OneMachine({
  machine,
  fields,
  edit,
  children,
}: {
  machine: Machine
  fields: Fields
  edit?: () => void
  children: ReactNode
}) {
  const { time } = useSession()
  const [whole, setWhole] = useState(false)
  const last = machine.versions.find((v) => !v.until)
  const day = (at: string) => time.date(`${at}T12:00:00Z`)
  return (
    <section className="sheetgroup" aria-label={`Commissioning of ${machine.name}`}>
      <h3 className="h6 mb-1">
        {machine.name}, counts as class {machine.class}
      </h3>
      {machine.classWhy && (
        <p className="mb-1">
          <b>{machine.classWhy}</b>
        </p>
      )}
      <p className="mb-1">
        {last ? `Gone through on ${day(last.sheet.on!)}, counts to ${day(machine.nextBy!)}. ` : 'No sheet yet. '}
        {machine.interlocksAt
          ? `Interlocks tried on ${time.date(machine.interlocksAt)}, count to ${time.date(machine.interlocksUntil!)}.`
          : 'Nobody has written down that the interlocks were tried.'}
      </p>
      {machine.missing.length > 0 && (
        <>
          <p className="mb-0">Still missing:</p>
          <ul className="mb-1">
            {machine.missing.map((m) => (
              <li key={m}>{m}</li>
            ))}
          </ul>
        </>
      )}
      <div className="d-flex gap-3 flex-wrap">
        {last && (
          <button type="button" className="quietlink" aria-expanded={whole} onClick={() => setWhole(!whole)}>
            {whole ? 'Hide the sheet' : 'See the sheet'}
          </button>
        )}
        {edit && (
          <button type="button" className="quietlink" onClick={edit}>
            {last ? 'Go through it anew' : 'Write the sheet'}
          </button>
        )}
      </div>
      {whole && machine.versions.map((v) => <Written key={v.from} version={v} fields={fields} />)}
      {children}
    </section>
  )
}

/** A sheet as it was written. */
function Written({ version, fields }: { version: Schemas['CommissioningResponse']; fields: Fields }) {
  const { time } = useSession()
  const sheet = toSheet(fields, version.sheet)
  const shown = (f: Fields[number]) => {
    const value = sheet[f.key]
    if (f.kind === 'flag') return value === true ? 'yes' : 'not shown'
    if (f.kind === 'rows')
      return (value as Record<string, string>[]).map((row) => `${row.stage}: ${row.lasts}`).join('; ') || 'not shown'
    return asWritten(value) ? `${asWritten(value)}${f.unit ? ` ${f.unit}` : ''}` : 'not shown'
  }
  return (
    <>
      <p className="small quiet mt-2 mb-1">
        Written on {time.date(version.from)}
        {version.by ? ` by ${version.by}` : ''}
        {version.until ? `; another took its place on ${time.date(version.until)}` : ''}.
      </p>
      <table className="plain">
        <tbody>
          {fields.map((f) => (
            <tr key={f.key}>
              <th scope="row">{f.label}</th>
              <td>{shown(f)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </>
  )
}

function Edit({ machine, fields, close }: { machine: Machine; fields: Fields; close: () => void }) {
  const last = machine.versions.find((v) => !v.until)
  const [sheet, setSheet] = useState<Sheet>(() => (last ? toSheet(fields, last.sheet) : usualSheet(fields)))
  const save = useAction(
    () =>
      answer(
        client.PUT('/api/machines/{id}/commissioning', {
          params: { path: { id: machine.machineId } },
          body: { fields: sheet as never, version: machine.version },
        }),
      ),
    close,
  )
  return (
    <Form
      noValidate
      aria-label={`Commissioning sheet of ${machine.name}`}
      onSubmit={(event: SubmitEvent) => {
        event.preventDefault()
        save.mutate()
      }}
    >
      <h3 className="h6 mt-3">Commissioning sheet of {machine.name}</h3>
      <SheetForm
        fields={fields}
        sheet={sheet}
        change={setSheet}
        errors={fieldErrors(save.error)}
        prefix={`set-up-${machine.machineId}`}
      />
      <Failure error={save.error} />
      <div className="sheetfoot">
        <Button type="submit" disabled={save.isPending}>
          Save the sheet
        </Button>
        <Button variant="outline-primary" onClick={close}>
          Cancel
        </Button>
        <p className="small quiet mb-0">
          What is left empty is listed as missing. The sheets of before stay on record.
        </p>
      </div>
    </Form>
  )
}
