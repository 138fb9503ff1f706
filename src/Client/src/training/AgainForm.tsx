import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import { Act, useAction } from '../kit/Act'
import { answer, client, type Schemas } from '../kit/api'
import { namesInARow } from '../kit/names'
import { fieldErrors, TextField } from '../kit/parts'

/** Who does something again, said before it is asked of them. */
export function Again({ again, what }: { again?: string[]; what: [one: string, more: string] }) {
  if (!again) return null
  const who =
    again.length === 1
      ? `One person ${what[0]} by then and is told`
      : `${again.length} people ${what[1]} by then and are told`
  return (
    <div className="proposal" role="status">
      {again.length === 0 ? 'It affects nobody.' : `${who}: ${namesInARow(again)}.`}
    </div>
  )
}

/** Everybody who passed passes anew by a day: the bank has changed. */
export function RenewQuiz({ version }: { version: number }) {
  const [repeatBy, setBy] = useState('')
  const [reason, setReason] = useState('')
  const send = (dryRun: boolean) =>
    answer(
      client.POST('/api/training/quizzes/{id}/renew', {
        params: { path: { id: 'laser-safety' } },
        body: { version, repeatBy, reason, dryRun },
      }),
    )
  const look = useAction(() => send(true))
  const act = useAction(() => send(false))
  const errors = { ...fieldErrors(look.error), ...fieldErrors(act.error) }
  return (
    <Act act={act} button="Ask them" fields={['repeatBy', 'reason']} done={act.data && 'Asked, and told.'}>
      <TextField
        id="renew-by"
        label="Having passed before counts until"
        type="date"
        value={repeatBy}
        put={setBy}
        error={errors.repeatBy}
      />
      <TextField id="renew-reason" label="Why" value={reason} put={setReason} error={errors.reason} />
      <Again again={look.data?.again} what={['passes it anew', 'pass it anew']} />
      <Button size="sm" variant="outline-primary" disabled={look.isPending} onClick={() => look.mutate()}>
        See who it affects
      </Button>{' '}
    </Act>
  )
}

/** A practical sheet as it is written: one step a line, an exclamation mark for a critical one. */
export function PracticalSheetForm({ sheet }: { sheet?: Schemas['PracticalSheet'] }) {
  const [title, setTitle] = useState(sheet?.title ?? '')
  const [steps, setSteps] = useState((sheet?.steps ?? []).map((s) => (s.critical ? `! ${s.text}` : s.text)).join('\n'))
  const [repeatBy, setBy] = useState('')
  const [reason, setReason] = useState('')
  const send = (dryRun: boolean) =>
    answer(
      client.POST('/api/training/practical-sheets', {
        body: { id: sheet?.id, version: sheet?.version ?? 0, title, steps, repeatBy, reason, dryRun },
      }),
    )
  const look = useAction(() => send(true))
  const act = useAction(() => send(false))
  const errors = { ...fieldErrors(look.error), ...fieldErrors(act.error) }
  const id = sheet?.id ?? 'new'
  return (
    <Act
      act={act}
      button={sheet ? 'Publish it' : 'Add the form'}
      fields={['title', 'steps', 'repeatBy', 'reason']}
      done={act.data && (sheet ? 'Published.' : 'Added: a path may end with it now.')}
    >
      <TextField id={`${id}-title`} label="Title" value={title} put={setTitle} error={errors.title} />
      <TextField
        id={`${id}-steps`}
        label="Steps, one a line; an exclamation mark makes one critical"
        rows={10}
        value={steps}
        put={setSteps}
        error={errors.steps}
      />
      {sheet && (
        <TextField
          id={`${id}-by`}
          label="Who was signed before shows it again by (empty: nobody has to)"
          type="date"
          value={repeatBy}
          put={setBy}
          error={errors.repeatBy}
        />
      )}
      <TextField id={`${id}-reason`} label="Why" value={reason} put={setReason} error={errors.reason} />
      <Again again={look.data?.again} what={['shows it again', 'show it again']} />
      {sheet && (
        <Button size="sm" variant="outline-primary" disabled={look.isPending} onClick={() => look.mutate()}>
          See who it affects
        </Button>
      )}{' '}
    </Act>
  )
}
