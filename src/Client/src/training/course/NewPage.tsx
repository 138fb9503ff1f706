import { Link } from 'react-router'
import { Act, Fold, useAction } from '../../kit/Act'
import { answer, client } from '../../kit/api'
import { fieldErrors, TextField } from '../../kit/parts'
import { useDraft } from '../../kit/useDraft'
import { PageFields } from './PageFields'

const empty = { title: '', body: '', check: '', options: '', reason: '' }

/** A page that the house writes itself: it asks for nothing until a path has it. */
export function NewPage() {
  const { draft, put, clear, of } = useDraft(empty)
  const add = useAction(
    () =>
      answer(
        client.POST('/api/training/readings', {
          body: { ...draft, options: draft.options.split('\n').filter((o) => o.trim()) },
        }),
      ),
    clear,
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
        <TextField id="page-title" label="Title" {...of('title', errors)} />
        <PageFields draft={draft} put={put} errors={errors} />
        <TextField id="page-reason" label="Why" {...of('reason', errors)} />
      </Act>
    </Fold>
  )
}
