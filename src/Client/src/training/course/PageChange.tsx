import { useAction } from '../../kit/Act'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState, type SubmitEvent } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import Markdown from 'react-markdown'
import { answer, client, type Schemas } from '../../kit/api'
import { namesInARow } from '../../kit/names'
import { Failure, fieldErrors, TextField } from '../../kit/parts'
import { PageFields } from './PageFields'

/** A steward changes a page: what it will look like, who has to read it again, then it is published. */
export function PageChange({ id }: { id: string }) {
  const [open, setOpen] = useState(false)
  const draft = useQuery({
    queryKey: ['page-draft', id],
    queryFn: ({ signal }) =>
      answer(client.GET('/api/training/readings/{id}/draft', { params: { path: { id } }, signal })),
    enabled: open,
    // What is typed is kept while others work.
    staleTime: Infinity,
  })
  if (!open)
    return (
      <Button variant="outline-primary" className="mt-4" onClick={() => setOpen(true)}>
        Change this page
      </Button>
    )
  if (!draft.data) return <Failure error={draft.error} />
  return <Changing key={draft.data.version} page={draft.data} close={() => setOpen(false)} />
}

function Changing({ page, close }: { page: Schemas['PageDraft']; close: () => void }) {
  const [draft, setDraft] = useState({
    body: page.body,
    check: page.check,
    options: page.options.join('\n'),
    repeatBy: '',
    reason: '',
  })
  const put = (changed: Partial<typeof draft>) => setDraft({ ...draft, ...changed })
  const queries = useQueryClient()
  const body = {
    ...draft,
    options: draft.options.split('\n').filter((o) => o.trim()),
    version: page.version,
  }
  const params = { path: { id: page.id } }
  const preview = useMutation({
    mutationFn: () => answer(client.POST('/api/training/readings/{id}/versions/preview', { params, body })),
  })
  const publish = useAction(
    () => answer(client.POST('/api/training/readings/{id}/versions', { params, body })),
    () => {
      close()
      queries.removeQueries({ queryKey: ['page-draft', page.id] })
    },
  )
  const errors = { ...fieldErrors(preview.error), ...fieldErrors(publish.error) }
  const again = preview.data?.again
  return (
    <Form
      noValidate
      className="rulingform mt-4"
      aria-label={`Change ${page.title}`}
      onSubmit={(event: SubmitEvent) => {
        event.preventDefault()
        publish.mutate()
      }}
    >
      <PageFields draft={draft} put={put} errors={errors} />
      <TextField
        id="page-repeat"
        label="Everybody reads it again by (empty: nobody has to)"
        type="date"
        error={errors.repeatBy}
        value={draft.repeatBy}
        put={(value) => put({ repeatBy: value })}
      />
      <TextField
        id="page-reason"
        label="Why it changes"
        error={errors.reason}
        value={draft.reason}
        put={(value) => put({ reason: value })}
      />
      <Failure error={publish.error ?? preview.error} />
      {again && (
        <div className="ruledone" role="status">
          <p>
            <b>
              {again.length === 0
                ? 'Nobody has to read it again.'
                : (again.length === 1
                    ? 'One person reads it again and is'
                    : `${again.length} people read it again and are`) + ` told: ${namesInARow(again)}.`}
            </b>
          </p>
          <Markdown disallowedElements={['h1']}>{draft.body}</Markdown>
        </div>
      )}
      <Button
        type="button"
        variant="outline-primary"
        className="me-2"
        disabled={preview.isPending}
        onClick={() => preview.mutate()}
      >
        See it, and who it touches
      </Button>
      <Button type="submit" className="me-2" disabled={publish.isPending}>
        Publish it
      </Button>
      <Button type="button" variant="link" onClick={close}>
        Cancel
      </Button>
    </Form>
  )
}
