import { useAction } from '../../kit/Act'
import { useMutation, useQuery } from '@tanstack/react-query'
import { useState, type SubmitEvent } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { answer, client, type Schemas } from '../../kit/api'
import { Choices } from '../../kit/Choices'
import { Failure, fieldErrors, TextField } from '../../kit/parts'
import { lengthIn, useUnit, type Unit } from '../../kit/units'
import { reasonsQuery } from '../materialQueries'
import { RulingOutcome } from './RulingOutcome'
import { evidenceNames, kindNames, operationNames, standingNames } from '../words'
import rulingsCss from '../rulings.module.css'

type Material = Schemas['MaterialResponse']
type Range = { standing: Schemas['RulingStatus']; evidence: Schemas['Evidence']; min: string; max: string }

interface Draft {
  kinds: Schemas['LaserKind'][]
  operations: Schemas['Operation'][]
  ranges: Range[]
  hazard: string
  handling: string
  practice: string
  reasons: string[]
  filtered: boolean
  from: string
  reviewBy: string
  reason: string
}

const start = (material: Material, unit: Unit, practice: string): Draft => {
  const own = material.rulings.filter((r) => r.kind === 'co2' && r.operation === 'cut')
  return {
    kinds: ['co2'],
    operations: ['cut'],
    ranges: own.map((r) => ({
      standing: r.standing,
      evidence: r.evidence,
      min: r.minMm > 0 ? `${lengthIn(unit, r.minMm)} ${unit}` : '',
      max: r.maxMm ? `${lengthIn(unit, r.maxMm)} ${unit}` : '',
    })),
    hazard: material.hazard,
    handling: material.handling,
    practice,
    reasons: material.reasons,
    filtered: own.some((r) => r.filteredNeedsArrangement),
    from: '',
    reviewBy: '',
    reason: '',
  }
}

const bodyOf = (d: Draft, version: number, unit: Unit): Schemas['RulingRequest'] => ({
  cells: d.kinds.flatMap((kind) => d.operations.map((operation) => ({ kind, operation }))),
  ranges: d.ranges,
  hazard: d.hazard,
  handling: d.handling,
  practice: d.practice,
  reasons: d.reasons,
  filteredNeedsArrangement: d.filtered,
  from: d.from,
  reviewBy: d.reviewBy,
  reason: d.reason,
  version,
  unit,
})

/** A new ruling, looked at before it is written: what it hits, and whether another pair of eyes is needed. */
export function RulingForm({ material, practice, close }: { material: Material; practice: string; close: () => void }) {
  const unit = useUnit()
  const [draft, setDraft] = useState(() => start(material, unit, practice))
  const [version] = useState(material.version)
  const put = (changed: Partial<Draft>) => setDraft({ ...draft, ...changed })
  const reasons = useQuery(reasonsQuery)
  const path = { id: material.id }
  const preview = useMutation({
    mutationFn: (d: Draft) =>
      answer(client.POST('/api/materials/{id}/rulings/preview', { params: { path }, body: bodyOf(d, version, unit) })),
  })
  const save = useAction((d: Draft) =>
    answer(client.POST('/api/materials/{id}/rulings', { params: { path }, body: bodyOf(d, version, unit) })),
  )
  const errors = { ...fieldErrors(preview.error), ...fieldErrors(save.error) }
  if (save.data)
    return (
      <div className="ruledone" role="status">
        <p>
          {save.data.proposal
            ? 'Milder than before, so it waits: another steward or the countersigner agrees to it. Stewards see it in Watch.'
            : 'Saved. Bookings that it touches are checked again.'}
        </p>
        <RulingOutcome outcome={save.data} />
        <Button size="sm" variant="outline-primary" onClick={close}>
          Close
        </Button>
      </div>
    )
  return (
    <Form
      noValidate
      aria-label={`A ruling on ${material.name}`}
      className="rulingform"
      onSubmit={(event: SubmitEvent) => {
        event.preventDefault()
        save.mutate(draft)
      }}
    >
      <div className="inlineform">
        <Choices
          id="ruling"
          label="For these lasers"
          options={kindNames}
          chosen={draft.kinds}
          put={(kinds) => put({ kinds })}
        />
        <Choices
          id="ruling"
          label="And operations"
          options={operationNames}
          chosen={draft.operations}
          put={(operations) => put({ operations })}
          error={errors.cells}
        />
      </div>
      <fieldset className="mt-2">
        <legend className="form-label">Ranges of thickness, both ends inclusive</legend>
        {draft.ranges.map((range, i) => {
          const set = (changed: Partial<Range>) =>
            put({ ranges: draft.ranges.map((r, at) => (at === i ? { ...r, ...changed } : r)) })
          const wrong = [...(errors[`ranges[${i}].min`] ?? []), ...(errors[`ranges[${i}].max`] ?? [])]
          return (
            <div key={i} className={rulingsCss.rangerow}>
              <Form.Control
                aria-label={`Range ${i + 1} from`}
                placeholder="from 0"
                value={range.min}
                isInvalid={!!errors[`ranges[${i}].min`]}
                onChange={(e) => set({ min: e.target.value })}
              />
              <Form.Control
                aria-label={`Range ${i + 1} to`}
                placeholder="to the machine’s limit"
                value={range.max}
                isInvalid={!!errors[`ranges[${i}].max`]}
                onChange={(e) => set({ max: e.target.value })}
              />
              <Form.Select
                aria-label={`Range ${i + 1} standing`}
                value={range.standing}
                onChange={(e) => set({ standing: e.target.value as Range['standing'] })}
              >
                {standingNames.map(([value, name]) => (
                  <option key={value} value={value}>
                    {name}
                  </option>
                ))}
              </Form.Select>
              <Form.Select
                aria-label={`Range ${i + 1} evidence`}
                value={range.evidence}
                onChange={(e) => set({ evidence: e.target.value as Range['evidence'] })}
              >
                {evidenceNames.map(([value, name]) => (
                  <option key={value} value={value}>
                    {name}
                  </option>
                ))}
              </Form.Select>
              <button
                type="button"
                className="quietlink"
                onClick={() => put({ ranges: draft.ranges.filter((_, at) => at !== i) })}
              >
                Remove
              </button>
              {wrong.length > 0 && <div className="invalid-feedback d-block">{wrong.join(' ')}</div>}
            </div>
          )
        })}
        {errors.ranges && <div className="invalid-feedback d-block">{errors.ranges.join(' ')}</div>}
        <button
          type="button"
          className="quietlink"
          onClick={() =>
            put({
              ranges: [...draft.ranges, { standing: 'byArrangement', evidence: 'clearedTag', min: '', max: '' }],
            })
          }
        >
          Another range
        </button>
      </fieldset>
      <Form.Check
        className="mt-2"
        id="ruling-filtered"
        label="A machine that only filters asks for a steward"
        checked={draft.filtered}
        onChange={(e) => put({ filtered: e.target.checked })}
      />
      <div className={rulingsCss.ruletexts}>
        {(
          [
            ['hazard', 'Hazard, in plain words'],
            ['handling', 'At the machine'],
            ['practice', 'Where practice differs'],
          ] as const
        ).map(([key, label]) => (
          <TextField
            key={key}
            id={`ruling-${key}`}
            label={label}
            error={errors[key]}
            rows={2}
            value={draft[key]}
            put={(value) => put({ [key]: value })}
          />
        ))}
      </div>
      <Choices
        id="reason"
        label="Why, as codes"
        options={reasons.data?.map((r) => [r.code, r.text] as const) ?? []}
        chosen={draft.reasons}
        put={(codes) => put({ reasons: codes })}
        error={errors.reasons}
      />
      <div className="inlineform mt-2">
        <TextField
          id="ruling-from"
          label="In force from (empty: now)"
          error={errors.from}
          type="date"
          value={draft.from}
          put={(value) => put({ from: value })}
        />
        <TextField
          id="ruling-review"
          label="Review by (empty: in a year)"
          error={errors.reviewBy}
          type="date"
          value={draft.reviewBy}
          put={(value) => put({ reviewBy: value })}
        />
      </div>
      <TextField
        id="ruling-reason"
        label="Why it changes"
        error={errors.reason}
        rows={2}
        value={draft.reason}
        put={(value) => put({ reason: value })}
      />
      <Failure error={save.error ?? preview.error} />
      {preview.data && <RulingOutcome outcome={preview.data} />}
      <Button type="button" variant="outline-primary" className="me-2" onClick={() => preview.mutate(draft)}>
        See what it does
      </Button>
      <Button type="submit" className="me-2" disabled={save.isPending}>
        Save the ruling
      </Button>
      <Button type="button" variant="link" onClick={close}>
        Cancel
      </Button>
    </Form>
  )
}
