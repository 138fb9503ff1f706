import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { useAction } from '../kit/Act'
import { answer, client, type Schemas } from '../kit/api'
import { Failure, Field, fieldErrors, RunOn } from '../kit/parts'
import { useMachines, useSession } from '../kit/session'

const states: Record<Schemas['ImportState'], string> = {
  new: 'new',
  changed: 'replaces what stands',
  same: 'stands already',
}

/** Closures from a calendar file: seen before they are written. */
export function ClosureFile() {
  const machines = useMachines()
  const [text, setText] = useState('')
  const [machineIds, setMachines] = useState<string[]>([])
  const run = useAction((dryRun: boolean) =>
    answer(client.POST('/api/calendar/file', { body: { text, machineIds, dryRun } })),
  )
  const errors = fieldErrors(run.error)
  // What was seen of another file, or of other machines, must not stand beside these.
  const choose = (change: () => void) => {
    change()
    run.reset()
  }
  const takes = run.data?.lines.filter((l) => l.state !== 'same').length ?? 0
  return (
    <section className="sheetgroup">
      <RunOn title="Closures from a file" />
      <p className="small quiet mt-2">
        Holidays of a school or a town, as iCalendar (.ics). The same file again adds nothing twice; what left the file
        stays here until you end it.
      </p>
      <Field id="closures-file" label="File, .ics" error={errors.text}>
        <Form.Control
          id="closures-file"
          type="file"
          accept=".ics,text/calendar"
          isInvalid={!!errors.text}
          onClick={(e) => (e.currentTarget.value = '')}
          onChange={(e) =>
            void (async () => {
              const read = (await (e.target as HTMLInputElement).files?.[0]?.text()) ?? ''
              choose(() => setText(read))
            })()
          }
        />
      </Field>
      <Field id="closures-machines" label="Closes (none ticked: the whole house)" error={errors.machineIds}>
        <div id="closures-machines" className="d-flex flex-wrap gap-3">
          {machines.data?.map((m) => (
            <Form.Check
              key={m.id}
              id={`closes-${m.id}`}
              label={m.name}
              checked={machineIds.includes(m.id)}
              onChange={(e) =>
                choose(() =>
                  setMachines((now) => (e.target.checked ? [...now, m.id] : now.filter((id) => id !== m.id))),
                )
              }
            />
          ))}
        </div>
      </Field>
      {run.isError && Object.keys(errors).length === 0 && <Failure error={run.error} />}
      <Button
        variant="outline-primary"
        className="me-2"
        disabled={!text || run.isPending}
        onClick={() => run.mutate(true)}
      >
        See what would close
      </Button>
      <Button disabled={!run.data || run.data.stored || takes === 0 || run.isPending} onClick={() => run.mutate(false)}>
        Put them in the calendar
      </Button>
      {run.data && <Seen read={run.data} />}
    </section>
  )
}

function Seen({ read }: { read: Schemas['ClosureFileResponse'] }) {
  const { time } = useSession()
  return (
    <div className="ruledone" role="status">
      <p>
        <b>{read.stored ? 'They stand in the calendar.' : `${read.lines.length} closures to come.`}</b>{' '}
        {read.left.length > 0 && `${read.left.length} lines are left out.`}
      </p>
      <ul className="plainlist">
        {read.lines.map((l, i) => (
          <li key={i}>
            <b>{l.title}</b>: {l.when} <span className="quiet">({states[l.state]})</span>
            {l.endless && ' It goes on in the file: bring it in again next year.'}
            {l.hit > 0 && (
              <b>
                {' '}
                {l.hit === 1 ? '1 booking falls' : `${l.hit} bookings fall`} into it from {time.moment(l.start)}: each
                is decided again and its person told.
              </b>
            )}
          </li>
        ))}
        {read.left.map((l, i) => (
          <li key={`left${i}`}>
            Left out: <b>{l.title}</b>. {l.why}
          </li>
        ))}
      </ul>
    </div>
  )
}
