import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { Link } from 'react-router'
import { useAction } from '../kit/Act'
import { answer, client } from '../kit/api'
import { Failure, Field, fieldErrors, PageHead, RunOn } from '../kit/parts'
import { hasRole, useSession } from '../kit/session'

/** The register out, and an old list in: looked at before anything is stored. */
export function IncidentFilesPage() {
  const { me } = useSession()
  return (
    <>
      <PageHead title="Files of incidents" sub="Without names and without the words people wrote">
        <Link to="/incidents">Incidents</Link>
      </PageHead>
      <RunOn title="Register" />
      <p className="mt-2">
        <a href="/api/incidents-file?format=csv">CSV</a>, <a href="/api/incidents-file?format=json">JSON</a>,{' '}
        <a href="/api/incidents-file?format=pdf">PDF</a>. Offered nowhere: a poster of days without an incident. It
        teaches silence.
      </p>
      {hasRole(me, 'steward') && <OldList />}
    </>
  )
}

function OldList() {
  const [text, setText] = useState('')
  const look = useAction((dryRun: boolean) => answer(client.POST('/api/incidents-file', { body: { text, dryRun } })))
  const read = look.data
  const error = fieldErrors(look.error).file
  return (
    <section className="mt-4">
      <RunOn title="Carry an old list over" />
      <p>
        Columns: day, machine, what, severity, causes, seen, cost. Days like 2024-05-31; an empty machine is the room.
        They are kept as closed, and marked as carried over.
      </p>
      <Field id="old-file" label="File, CSV or JSON" error={error}>
        <Form.Control
          id="old-file"
          type="file"
          accept=".csv,.json,text/csv,application/json"
          isInvalid={!!error}
          onClick={(e) => (e.currentTarget.value = '')}
          onChange={(e) =>
            void (async () => {
              setText((await (e.target as HTMLInputElement).files?.[0]?.text()) ?? '')
              look.reset()
            })()
          }
        />
      </Field>
      <Button size="sm" disabled={!text || look.isPending} onClick={() => look.mutate(true)}>
        Look at it first
      </Button>
      {!error && <Failure error={look.error} />}
      {read && (
        <>
          <p role="status" className="mt-2">
            {read.stored
              ? `${read.rows} carried over.`
              : read.bad.length > 0
                ? 'Nothing is saved while a row is wrong.'
                : `${read.rows} can be carried over.`}
          </p>
          {read.bad.length > 0 && (
            <table className="plain">
              <thead>
                <tr>
                  <th>Line</th>
                  <th>Column</th>
                  <th>What is wrong</th>
                </tr>
              </thead>
              <tbody>
                {read.bad.slice(0, 50).map((row) => (
                  <tr key={`${row.line} ${row.field} ${row.text}`}>
                    <td>{row.line}</td>
                    <td>{row.field}</td>
                    <td>{row.text}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          )}
          {!read.stored && read.bad.length === 0 && read.rows > 0 && (
            <Button size="sm" variant="outline-primary" disabled={look.isPending} onClick={() => look.mutate(false)}>
              Carry over {read.rows}
            </Button>
          )}
        </>
      )}
    </section>
  )
}
