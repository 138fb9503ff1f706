import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { Link } from 'react-router'
import { answer, client, type Schemas } from '../kit/api'
import { Failure, Field, fieldErrors, PageHead, RunOn, TextField } from '../kit/parts'
import { hasRole, useSession } from '../kit/session'
import { useUnit } from '../kit/units'
import { CellChanges } from './rulings/RulingOutcome'

/** Rulings and sheets as files: out for everybody, in for stewards, looked at before anything is stored. */
export function ExchangePage() {
  const { me } = useSession()
  return (
    <>
      <PageHead title="Files" sub="CSV for a spreadsheet, JSON for a program.">
        <Link to="/materials">The shelf</Link>
        <Link to="/sheets">Sheets</Link>
      </PageHead>
      <RunOn title="Download" />
      <p className="mt-2">
        Rulings: <a href="/api/rulings-file?format=csv">CSV</a>, <a href="/api/rulings-file?format=json">JSON</a>.
        Sheets: <a href="/api/sheets-file?format=csv">CSV</a>, <a href="/api/sheets-file?format=json">JSON</a>.
      </p>
      {hasRole(me, 'steward') && (
        <>
          <Rulings />
          <Sheets />
        </>
      )}
    </>
  )
}

const count = (n: number, what: string) => `${n} ${what}${n === 1 ? '' : 's'}`

function Picker({ id, put, error }: { id: string; put: (text: string) => void; error?: string[] }) {
  return (
    <Field id={id} label="File, CSV or JSON" error={error}>
      <Form.Control
        id={id}
        type="file"
        accept=".csv,.json,text/csv,application/json"
        isInvalid={!!error}
        // The same file, mended, can be chosen again.
        onClick={(e) => (e.currentTarget.value = '')}
        onChange={(e) => void (async () => put((await (e.target as HTMLInputElement).files?.[0]?.text()) ?? ''))()}
      />
    </Field>
  )
}

function BadRows({ rows }: { rows: Schemas['BadRow'][] }) {
  if (rows.length === 0) return null
  return (
    <>
      <p>
        <b>Nothing is saved while a row is wrong.</b>
      </p>
      <ul className="small">
        {rows.slice(0, 50).map((r, i) => (
          <li key={i}>
            Line {r.line}, {r.field}: {r.text}
          </li>
        ))}
        {rows.length > 50 && <li>… and {rows.length - 50} more.</li>}
      </ul>
    </>
  )
}

function Rulings() {
  const unit = useUnit()
  const [text, setText] = useState('')
  const [reason, setReason] = useState('')
  const queries = useQueryClient()
  const run = useMutation({
    mutationFn: (dryRun: boolean) => answer(client.POST('/api/rulings-file', { body: { text, dryRun, reason, unit } })),
    onSuccess: (made) => (made.stored ? queries.invalidateQueries({ queryKey: ['live'] }) : undefined),
  })
  const errors = fieldErrors(run.error)
  // What was seen of another file must not stand beside this one.
  const choose = (chosen: string) => {
    setText(chosen)
    run.reset()
  }
  return (
    <section className="mt-4">
      <RunOn title="Rulings from a file" />
      <p className="small quiet mt-2">
        A cell in the file is replaced whole; what is not in it stays. Stricter holds at once, milder waits for another
        steward.
      </p>
      <Picker id="rulings-file" put={choose} error={errors.file} />
      <TextField id="rulings-reason" label="Why they change" error={errors.reason} value={reason} put={setReason} />
      {run.isError && Object.keys(errors).length === 0 && <Failure error={run.error} />}
      <Button
        variant="outline-primary"
        className="me-2"
        disabled={!text || run.isPending}
        onClick={() => run.mutate(true)}
      >
        See what the rulings would do
      </Button>
      <Button
        disabled={!text || run.isPending || !run.data || run.data.bad.length > 0 || run.data.stored}
        onClick={() => run.mutate(false)}
      >
        Bring them in
      </Button>
      {run.data && (
        <div className="ruledone" role="status">
          <p>
            {count(run.data.rows, 'row')} read. Changes {count(run.data.materials.length, 'material')}
            {run.data.proposals > 0 && `, ${run.data.proposals} of them milder, which waits`}.{' '}
            {run.data.stored && <b>Brought in.</b>}
          </p>
          <BadRows rows={run.data.bad} />
          {run.data.materials.map((m) => (
            <div key={m.materialId} className="mb-2">
              <Link to={`/materials/${m.materialId}`}>{m.name}</Link>
              <CellChanges cells={m.cells} />
            </div>
          ))}
        </div>
      )}
    </section>
  )
}

function Sheets() {
  const [text, setText] = useState('')
  const queries = useQueryClient()
  const run = useMutation({
    mutationFn: (dryRun: boolean) => answer(client.POST('/api/sheets-file', { body: { text, dryRun } })),
    onSuccess: (made) => (made.stored ? queries.invalidateQueries({ queryKey: ['live'] }) : undefined),
  })
  const errors = fieldErrors(run.error)
  // What was seen of another file must not stand beside this one.
  const choose = (chosen: string) => {
    setText(chosen)
    run.reset()
  }
  return (
    <section className="mt-4">
      <RunOn title="House stock from a file" />
      <p className="small quiet mt-2">Columns: material, thickness, width, height, supplier, batch, count.</p>
      <Picker id="sheets-file" put={choose} error={errors.file} />
      {run.isError && Object.keys(errors).length === 0 && <Failure error={run.error} />}
      <Button
        variant="outline-primary"
        className="me-2"
        disabled={!text || run.isPending}
        onClick={() => run.mutate(true)}
      >
        See what would be registered
      </Button>
      <Button
        disabled={!text || run.isPending || !run.data || run.data.bad.length > 0 || run.data.stored}
        onClick={() => run.mutate(false)}
      >
        Register them
      </Button>
      {run.data && (
        <div className="ruledone" role="status">
          <p>
            {count(run.data.rows, 'row')}, {count(run.data.sheets, 'sheet')}.
          </p>
          <BadRows rows={run.data.bad} />
          {run.data.stored && (
            <p>
              Registered: {run.data.tags[0]} to {run.data.tags.at(-1)}.{' '}
              <a href={`/api/sheet-labels.pdf?tags=${run.data.tags.slice(0, 500).join(',')}`}>Labels (PDF)</a>
            </p>
          )}
        </div>
      )}
    </section>
  )
}
