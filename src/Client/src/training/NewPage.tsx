import { useState } from 'react'
import { Link } from 'react-router'
import { Act, Fold, useAct } from '../shared/Act'
import { answer, client } from '../shared/api'
import { fieldErrors, TextField } from '../shared/parts'
import { PageFields } from './PageFields'

const empty = { title: '', body: '', check: '', options: '', reason: '' }

/** A page that the house writes itself: it asks for nothing until a path has it. */
export function NewPage() {
  const [draft, setDraft] = useState(empty)
  const put = (changed: Partial<typeof empty>) => setDraft({ ...draft, ...changed })
  const add = useAct(
    () =>
      answer(
        client.POST('/api/training/readings', {
          body: { ...draft, options: draft.options.split('\n').filter((o) => o.trim()) },
        }),
      ),
    () => setDraft(empty),
  )
  const errors = fieldErrors(add.error)
  return (
    <Fold title="Write a page of your own">
      <Act
        act={add}
        button="Add the page"
        fields={['title', 'body', 'check', 'options', 'reason']}
        done={
          add.data && (
            <>
              Added. <Link to={`/training/read/${add.data.id}`}>Read it</Link>, then put it into a path.
            </>
          )
        }
      >
        <TextField
          id="page-title"
          label="Title"
          value={draft.title}
          put={(title) => put({ title })}
          error={errors.title}
        />
        <PageFields draft={draft} put={put} errors={errors} />
        <TextField
          id="page-reason"
          label="Why"
          value={draft.reason}
          put={(reason) => put({ reason })}
          error={errors.reason}
        />
      </Act>
    </Fold>
  )
}
