import { useAction } from '../../kit/Act'
import { useQuery } from '@tanstack/react-query'
import { useState, type SubmitEvent } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { Link, useSearchParams } from 'react-router'
import { answer, client, fileBody, type Schemas } from '../../kit/api'
import { Empty, Failure, Field, fieldErrors, Loading, PageHead, RunOn, TextField } from '../../kit/parts'
import { useSession } from '../../kit/session'
import { RulesOfThumb } from '../RulesOfThumb'
import { RequestReply } from './RequestReply'
import rulingsCss from '../rulings.module.css'

type Asked = Schemas['RequestAnswered']

const states: Record<string, string> = {
  waiting: 'waits for a steward',
  known: 'is on the list under another name',
  added: 'came on the list',
  cleared: 'may be used as one sheet',
  refused: 'stays out',
  withdrawn: 'withdrawn',
}

/** What is not on the list, and what the stewards said to it. */
export function RequestsPage() {
  const requests = useQuery({
    queryKey: ['live', 'ruling-requests'],
    queryFn: ({ signal }) => answer(client.GET('/api/ruling-requests', { signal })),
  })
  return (
    <>
      <PageHead title="Asked for" sub="What is not on the list stays out until a steward has ruled on it.">
        <Link to="/materials">The shelf</Link>
      </PageHead>
      <Ask />
      {requests.data && <RulesOfThumb rules={requests.data.rulesOfThumb} />}
      {requests.isPending && <Loading what="the requests" />}
      <Failure error={requests.error} retry={() => void requests.refetch()} />
      {requests.data && (
        <section className="mt-4">
          <RunOn title="Requests" after={requests.data.items.length} />
          {requests.data.items.length === 0 ? (
            <Empty title="Nobody asked for a ruling">Ask above before you buy: that is cheaper than a sheet.</Empty>
          ) : (
            <ul className={`plainlist ${rulingsCss.requests}`}>
              {requests.data.items.map((r) => (
                <Request key={r.id} request={r} families={requests.data.families} />
              ))}
            </ul>
          )}
        </section>
      )}
    </>
  )
}

function Request({ request, families }: { request: Asked; families: string[] }) {
  const { time } = useSession()
  const withdraw = useAction(() =>
    answer(client.POST('/api/ruling-requests/{id}/withdraw', { params: { path: { id: request.id } } })),
  )
  return (
    <li data-request={request.name}>
      <b>{request.name}</b> {states[request.state]}
      {request.materialId && (
        <>
          : <Link to={`/materials/${request.materialId}`}>see its rulings</Link>
        </>
      )}
      {request.sheetTag && (
        <>
          , sheet <Link to={`/sheets/${request.sheetTag}`}>{request.sheetTag}</Link>
        </>
      )}
      .{' '}
      <span className="quiet">
        Asked by {request.mine ? 'you' : request.by} on {time.date(request.at)}
        {request.supplier && `, from ${request.supplier}`}
        {request.link && `, ${request.link}`}.
      </span>
      {request.note && <p className="mb-1">{request.note}</p>}
      {request.fileName && (
        <p className="mb-1">
          <a href={`/api/ruling-requests/${request.id}/file`}>{request.fileName}</a>
        </p>
      )}
      {request.reply && <p className="mb-1">The steward: {request.reply}</p>}
      {request.mine && request.state === 'waiting' && (
        <>
          <DataSheet id={request.id} />
          <Button size="sm" variant="outline-primary" disabled={withdraw.isPending} onClick={() => withdraw.mutate()}>
            Withdraw it
          </Button>
          <Failure error={withdraw.error} />
        </>
      )}
      {request.mayAnswer && <RequestReply request={request} families={families} />}
    </li>
  )
}

function DataSheet({ id }: { id: string }) {
  const attach = useAction((file: File) =>
    answer(client.POST('/api/ruling-requests/{id}/file', { params: { path: { id } }, ...fileBody(file) })),
  )
  const errors = fieldErrors(attach.error)
  return (
    <Field id={`data-${id}`} label="Data sheet: PDF, PNG or JPEG" error={errors.file}>
      <Form.Control
        id={`data-${id}`}
        type="file"
        accept=".pdf,.png,.jpg,.jpeg"
        isInvalid={!!errors.file}
        onChange={(e) => {
          const file = (e.target as HTMLInputElement).files?.[0]
          if (file) attach.mutate(file)
        }}
      />
    </Field>
  )
}

const blank = { name: '', supplier: '', link: '', note: '' }

function Ask() {
  const [params] = useSearchParams()
  const [draft, setDraft] = useState({ ...blank, name: params.get('name') ?? '' })
  const ask = useAction(
    () => answer(client.POST('/api/ruling-requests', { body: draft })),
    () => setDraft(blank),
  )
  const errors = fieldErrors(ask.error)
  const fields = [
    ['name', 'What it is called'],
    ['supplier', 'Who sells it'],
    ['link', 'Where it is described'],
  ] as const
  return (
    <Form
      noValidate
      className="mt-3"
      aria-label="Ask for a ruling"
      onSubmit={(event: SubmitEvent) => {
        event.preventDefault()
        ask.mutate()
      }}
    >
      <div className="inlineform">
        {fields.map(([key, label]) => (
          <TextField
            key={key}
            id={`request-${key}`}
            label={label}
            error={errors[key]}
            value={draft[key]}
            put={(value) => setDraft({ ...draft, [key]: value })}
          />
        ))}
      </div>
      <TextField
        id="request-note"
        label="What you want to do with it"
        error={errors.note}
        rows={2}
        value={draft.note}
        put={(value) => setDraft({ ...draft, note: value })}
      />
      {ask.isError && Object.keys(errors).length === 0 && <Failure error={ask.error} />}
      {ask.data && (
        <p role="status">
          Asked. A steward sees it in Watch; add a data sheet below if you have one. Until then it stays out.
        </p>
      )}
      <Button type="submit" disabled={ask.isPending}>
        Ask the stewards
      </Button>
    </Form>
  )
}
