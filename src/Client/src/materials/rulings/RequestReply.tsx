import { useAction } from '../../kit/Act'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import { answer, client, type Schemas } from '../../kit/api'
import { Choices } from '../../kit/Choices'
import { Failure, fieldErrors, SelectField, TextField } from '../../kit/parts'
import { useUnit } from '../../kit/units'
import { MaterialField } from '../MaterialField'
import { reasonsQuery } from '../materialQueries'
import { SizeFields } from '../sheets/SizeFields'
import { operationNames } from '../words'
import rulingsCss from '../rulings.module.css'

const answers = [
  ['known', 'It is a material of the list'],
  ['added', 'It comes on the list'],
  ['cleared', 'This one sheet, by arrangement'],
  ['refused', 'It stays out'],
] as const

/** A steward's answer: another name of something known, a new material, or no. */
export function RequestReply({ request, families }: { request: Schemas['RequestAnswered']; families: string[] }) {
  const reasons = useQuery(reasonsQuery)
  const [draft, setDraft] = useState({
    answer: 'known',
    materialId: '',
    name: request.name,
    family: families.at(-1) ?? '',
    standing: 'banned',
    hazard: '',
    reason: '',
    thickness: '',
    width: '',
    height: '',
  })
  const unit = useUnit()
  const [operations, setOperations] = useState<Schemas['Operation'][]>(['cut', 'score', 'engrave'])
  const [codes, setCodes] = useState<string[]>([])
  const put = (changed: Partial<typeof draft>) => setDraft({ ...draft, ...changed })
  const reply = useAction(() =>
    answer(
      client.POST('/api/ruling-requests/{id}/answer', {
        params: { path: { id: request.id } },
        body: { ...draft, reasons: codes, operations, unit },
      }),
    ),
  )
  const errors = fieldErrors(reply.error)
  const id = (key: string) => `reply-${request.id}-${key}`
  return (
    <details className={`${rulingsCss.deskacts} mt-2`}>
      <summary>Answer it</summary>
      <div className="inlineform">
        <SelectField
          id={id('answer')}
          label="Answer"
          value={draft.answer}
          put={(answer) => put({ answer })}
          options={answers}
          error={errors.answer}
        />
        {(draft.answer === 'known' || draft.answer === 'cleared') && (
          <MaterialField
            id={id('material')}
            label={draft.answer === 'known' ? 'Which one' : 'The rulings of this hold for it'}
            error={errors.materialId}
            value={draft.materialId}
            put={(value) => put({ materialId: value })}
          />
        )}
        {draft.answer === 'added' && (
          <>
            <TextField
              id={id('name')}
              label="Name on the list"
              error={errors.name}
              value={draft.name}
              put={(value) => put({ name: value })}
            />
            <SelectField
              id={id('family')}
              label="Under"
              value={draft.family}
              put={(family) => put({ family })}
              options={families.map((f) => [f, f] as const)}
              error={errors.family}
            />
            <SelectField
              id={id('standing')}
              label="Ruling to start with"
              value={draft.standing}
              put={(standing) => put({ standing })}
              options={[
                ['banned', 'banned'],
                ['never', 'never, and nobody can relax this'],
                ['byArrangement', 'by arrangement, once another agrees'],
              ]}
              error={errors.standing}
            />
          </>
        )}
      </div>
      {draft.answer === 'cleared' && (
        <>
          <p className="small quiet">
            It gets a tag and is cleared on the data sheet and your word; the list stays as it is.
          </p>
          <div className="inlineform">
            <SizeFields id={id('')} unit={unit} draft={draft} put={put} errors={errors} />
          </div>
          <Choices
            id={id('for')}
            label="Cleared for"
            options={operationNames}
            chosen={operations}
            put={setOperations}
            error={errors.operations}
          />
        </>
      )}
      {draft.answer === 'added' && (
        <>
          <TextField
            id={id('hazard')}
            label="Hazard, in plain words"
            error={errors.hazard}
            value={draft.hazard}
            put={(value) => put({ hazard: value })}
          />
          <Choices
            id={id('why')}
            label="Why, as codes"
            options={reasons.data?.map((r) => [r.code, r.text] as const) ?? []}
            chosen={codes}
            put={setCodes}
            error={errors.reasons}
          />
        </>
      )}
      <TextField
        id={id('reason')}
        label="What you tell them"
        error={errors.reason}
        rows={2}
        value={draft.reason}
        put={(value) => put({ reason: value })}
      />
      {reply.isError && Object.keys(errors).length === 0 && <Failure error={reply.error} />}
      <Button size="sm" disabled={reply.isPending} onClick={() => reply.mutate()}>
        Send the answer
      </Button>
    </details>
  )
}
