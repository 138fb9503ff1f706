import { useState } from 'react'
import Form from 'react-bootstrap/Form'
import type { Schemas } from '../../kit/api'
import trainingCss from '../training.module.css'

export type Step = Pick<Schemas['PathStepResponse'], 'kind' | 'id' | 'count'>

/** Steps in their order: moved, taken out, added. */
export function StepList({
  id,
  title,
  steps,
  put,
  list,
  own,
  error,
}: {
  id: string
  title: string
  steps: Step[]
  put: (steps: Step[]) => void
  list: Schemas['PathList']
  own: string
  error?: string[]
}) {
  const [paper, setPaper] = useState('')
  const choices = list.choices.filter(
    (c) => !(c.kind === 'authority' && c.id === own) && !steps.some((s) => s.kind === c.kind && s.id === c.id),
  )
  const title_ = (s: Step) =>
    s.kind === 'outside' ? s.id : (list.choices.find((c) => c.kind === s.kind && c.id === s.id)?.title ?? s.id)
  const move = (from: number, to: number) => {
    const next = [...steps]
    next.splice(to, 0, ...next.splice(from, 1))
    put(next)
  }
  // The sign-off is always last: another one takes its place.
  const add = (step: Step) =>
    step.kind === 'signOff'
      ? put([...steps.filter((s) => s.kind !== 'signOff'), step])
      : put([...steps.filter((s) => s.kind !== 'signOff'), step, ...steps.filter((s) => s.kind === 'signOff')])
  return (
    <fieldset className="mb-2" aria-describedby={error ? `${id}-error` : undefined}>
      <legend className="form-label">{title}</legend>
      <ol className={trainingCss.stepedit}>
        {steps.map((s, i) => (
          <li key={`${s.kind} ${s.id}`}>
            <span>{title_(s)}</span>
            {s.kind === 'supervisedRuns' && (
              <Form.Control
                size="sm"
                inputMode="numeric"
                className={trainingCss.runcount}
                aria-label="How many; empty takes the house rule"
                placeholder="rule"
                value={s.count || ''}
                onChange={(e) => put(steps.map((x, j) => (j === i ? { ...x, count: Number(e.target.value) || 0 } : x)))}
              />
            )}
            {s.kind !== 'signOff' && (
              <span className={trainingCss.moves}>
                <button
                  type="button"
                  className="quietlink"
                  disabled={i === 0}
                  aria-label={`${title_(s)}: sooner`}
                  onClick={() => move(i, i - 1)}
                >
                  sooner
                </button>{' '}
                <button
                  type="button"
                  className="quietlink"
                  disabled={steps[i + 1]?.kind === 'signOff' || i === steps.length - 1}
                  aria-label={`${title_(s)}: later`}
                  onClick={() => move(i, i + 1)}
                >
                  later
                </button>{' '}
                <button
                  type="button"
                  className="quietlink"
                  aria-label={`${title_(s)}: take out`}
                  onClick={() => put(steps.filter((_, j) => j !== i))}
                >
                  take out
                </button>
              </span>
            )}
          </li>
        ))}
      </ol>
      <div className={trainingCss.stepadd}>
        <Form.Select
          size="sm"
          aria-label={`${title}: add a step`}
          value=""
          onChange={(e) => {
            const choice = choices[Number(e.target.value)]
            if (choice) add({ kind: choice.kind, id: choice.id, count: 0 })
          }}
        >
          <option value="">Add a step …</option>
          {choices.map((c, i) => (
            <option key={`${c.kind} ${c.id}`} value={i}>
              {c.title}
            </option>
          ))}
        </Form.Select>
        <Form.Control
          size="sm"
          aria-label={`${title}: a certificate from elsewhere`}
          placeholder="or a paper from elsewhere"
          value={paper}
          onChange={(e) => setPaper(e.target.value)}
        />
        <button
          type="button"
          className="quietlink"
          disabled={!paper.trim()}
          onClick={() => {
            add({ kind: 'outside', id: paper.trim(), count: 0 })
            setPaper('')
          }}
        >
          Add it
        </button>
      </div>
      {error && (
        <div className="invalid-feedback d-block" id={`${id}-error`} role="alert">
          {error.join(' ')}
        </div>
      )}
    </fieldset>
  )
}
