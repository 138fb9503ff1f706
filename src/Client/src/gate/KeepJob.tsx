import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { Link } from 'react-router'
import { answer, client, type Schemas } from '../kit/api'
import { Failure, Field, fieldErrors } from '../kit/parts'
import { drawingsQuery } from '../kit/session'

/** Keeps what the question asks for, without its time, so that it can be asked again. */
export function KeepJob({ question }: { question: Schemas['GateQuestionRequest'] }) {
  const queries = useQueryClient()
  const drawings = useQuery(drawingsQuery)
  const [open, setOpen] = useState(false)
  const [typed, setTyped] = useState<string>()
  const item = question.items?.[0] ?? question
  const drawing = drawings.data?.find((d) => d.id === item.drawingId)
  const name = typed ?? drawing?.name.replace(/\.[a-z0-9]+$/i, '') ?? ''
  const [id, setId] = useState(() => crypto.randomUUID())
  const keep = useMutation({
    mutationFn: () => answer(client.POST('/api/jobs', { body: { id, name, question } })),
    onSuccess: () => {
      setOpen(false)
      setId(crypto.randomUUID())
      return queries.invalidateQueries({ queryKey: ['live', 'jobs'] })
    },
  })
  const errors = fieldErrors(keep.error)
  if (!open)
    return (
      <p className="small mt-2 mb-0">
        {keep.isSuccess && (
          <span role="status">
            Kept. <Link to="/bookings/jobs">See your jobs</Link>.{' '}
          </span>
        )}
        <button type="button" className="quietlink" onClick={() => setOpen(true)}>
          Keep this as a job
        </button>
      </p>
    )
  return (
    <Form
      className="mt-2"
      onSubmit={(event) => {
        event.preventDefault()
        keep.mutate()
      }}
    >
      <Field label="Name of the job" id="job-name" error={errors.name}>
        <Form.Control id="job-name" value={name} onChange={(event) => setTyped(event.target.value)} />
      </Field>
      {keep.isError && !errors.name && <Failure error={keep.error} />}
      <Button type="submit" size="sm" variant="outline-primary" disabled={keep.isPending}>
        Keep it
      </Button>
    </Form>
  )
}
