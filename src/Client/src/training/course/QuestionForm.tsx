import { useState } from 'react'
import Form from 'react-bootstrap/Form'
import { Act, Fold, useAction } from '../../kit/Act'
import { answer, client, type Schemas } from '../../kit/api'
import { fieldErrors, SelectField, TextField } from '../../kit/parts'

type Item = Schemas['ItemAnswered']
type Kind = Schemas['QuestionKind']

const kinds: [Kind, string][] = [
  ['single', 'One answer is right'],
  ['multiple', 'Several are right'],
  ['order', 'Put in order'],
]

/** A question as it is written. A reworded one takes the place of the old, whose answers stay with it. */
export function QuestionForm({ item, topics }: { item?: Item; topics: string[] }) {
  const [draft, setDraft] = useState({
    topic: item?.topic ?? topics[0] ?? '',
    kind: item?.kind ?? 'single',
    critical: item?.critical ?? false,
    text: item?.text ?? '',
    options: (item?.options ?? []).join('\n'),
    right: String(item?.rightOptions || 1),
    why: item?.why ?? '',
    reason: '',
  })
  const put = (changed: Partial<typeof draft>) => setDraft({ ...draft, ...changed })
  const change = useAction(
    () =>
      answer(
        client.POST('/api/training/questions', {
          body: {
            ...draft,
            replaces: item?.id,
            options: draft.options.split('\n').filter((o) => o.trim()),
            right: Number(draft.right) || 0,
          },
        }),
      ),
    // A new one makes room for the next; a changed one has become another question.
    () => !item && put({ text: '', options: '', why: '', reason: '' }),
  )
  const retire = useAction(() =>
    answer(
      client.POST('/api/training/questions/{id}/retire', {
        params: { path: { id: item?.id ?? '' } },
        body: { reason: draft.reason },
      }),
    ),
  )
  const errors = { ...fieldErrors(change.error), ...fieldErrors(retire.error) }
  const id = (name: string) => `q-${item?.id ?? 'new'}-${name}`
  return (
    <Fold title={item ? 'Change it' : 'Write a question'}>
      <Act
        act={change}
        button={item ? 'Replace the old one' : 'Add it'}
        fields={['topic', 'kind', 'text', 'options', 'right', 'why', 'reason']}
        done={change.data && 'Kept. Quizzes that are open keep the words they began with.'}
      >
        <SelectField
          id={id('topic')}
          label="Taught by the page"
          value={draft.topic}
          put={(topic) => put({ topic })}
          options={topics.map((t) => [t, t] as const)}
          error={errors.topic}
        />
        {draft.kind !== 'picture' && (
          <SelectField
            id={id('kind')}
            label="Kind"
            value={draft.kind}
            put={(kind) => put({ kind })}
            options={kinds}
            error={errors.kind}
          />
        )}
        <TextField
          id={id('text')}
          label="Question"
          rows={2}
          value={draft.text}
          put={(text) => put({ text })}
          error={errors.text}
        />
        <TextField
          id={id('options')}
          label={
            draft.kind === 'order'
              ? 'Steps in the right order, one a line'
              : 'Answers, one a line, the right ones first'
          }
          rows={4}
          value={draft.options}
          put={(options) => put({ options })}
          error={errors.options}
        />
        {draft.kind === 'multiple' && (
          <TextField
            id={id('right')}
            label="How many of them are right"
            inputMode="numeric"
            value={draft.right}
            put={(right) => put({ right })}
            error={errors.right}
          />
        )}
        <Form.Check
          id={id('critical')}
          className="mb-2"
          label="Critical: wrong here fails the quiz"
          checked={draft.critical}
          onChange={(e) => put({ critical: e.target.checked })}
        />
        <TextField
          id={id('why')}
          label="Why, shown when the quiz has ended"
          rows={2}
          value={draft.why}
          put={(why) => put({ why })}
          error={errors.why}
        />
        <TextField
          id={id('reason')}
          label={item ? 'Why you change it' : 'Why you add it'}
          value={draft.reason}
          put={(reason) => put({ reason })}
          error={errors.reason}
        />
      </Act>
      {item && (
        <Act act={retire} button="Take it out" danger fields={['reason']}>
          <span className="d-block mt-1" />
        </Act>
      )}
    </Fold>
  )
}
