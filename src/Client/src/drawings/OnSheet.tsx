import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useDeferredValue, useState } from 'react'
import Form from 'react-bootstrap/Form'
import { Link } from 'react-router'
import { answer, client, type Schemas } from '../kit/api'
import { Failure, Field, fieldErrors, RunOn } from '../kit/parts'
import { lengthIn, useUnit } from '../kit/units'
import drawingsCss from './drawings.module.css'

/** Cleared sheets and offcuts that the drawing lies on, the smallest offcut first, and what each leaves. */
export function OnSheet({
  id,
  sheeting,
  report,
}: {
  id: string
  sheeting: { machineId: string; materialId: string; thickness: string }
  report: Schemas['DrawingReport']
}) {
  const unit = useUnit()
  const [typed, setTyped] = useState('1')
  const copies = useDeferredValue(typed)
  const [tag, setTag] = useState('')
  const pieces = useQuery({
    queryKey: ['live', 'pieces', id, sheeting, unit, copies],
    queryFn: ({ signal }) =>
      answer(
        client.GET('/api/drawings/{id}/pieces', {
          params: { path: { id }, query: { ...sheeting, unit, copies: Number(copies) } },
          signal,
        }),
      ),
    enabled: /^\d+$/.test(copies.trim()),
    placeholderData: keepPreviousData,
    retry: false,
  })
  const errors = fieldErrors(pieces.error)
  const items = pieces.isError ? [] : (pieces.data?.items ?? [])
  const shown = items.find((p) => p.tag === tag) ?? items[0]
  const size = (width: number, height: number) => `${lengthIn(unit, width)} x ${lengthIn(unit, height)}`
  return (
    <section className="mt-3">
      <RunOn title="On a sheet" after={items.length} />
      <div className={drawingsCss.onsheet}>
        <div>
          <Field label="Copies" id="copies" error={errors.copies}>
            <Form.Control id="copies" inputMode="numeric" value={typed} onChange={(e) => setTyped(e.target.value)} />
          </Field>
          {Object.keys(errors).length === 0 && <Failure error={pieces.error} />}
          {pieces.data && items.length === 0 && (
            <p className="quiet">No cleared sheet or offcut of this material and thickness takes it.</p>
          )}
          <ul className={drawingsCss.rack}>
            {items.slice(0, 8).map((p) => (
              <li key={p.tag} aria-current={p.tag === shown?.tag}>
                <button type="button" className="quietlink" onClick={() => setTag(p.tag)}>
                  {p.tag}
                </button>
                , {p.offcut ? 'offcut' : 'sheet'} {size(p.widthMm, p.heightMm)} {unit}
                {p.copies < (pieces.data?.copies ?? 1) && `, takes ${p.copies}`}
              </li>
            ))}
          </ul>
        </div>
        {shown && pieces.data && (
          <figure className={drawingsCss.layout}>
            <svg
              viewBox={`-2 -2 ${shown.widthMm + 4} ${shown.heightMm + 4}`}
              role="img"
              aria-label={`${shown.copies} on ${shown.tag}${shown.turned ? ', turned by a quarter' : ''}`}
            >
              <rect width={shown.widthMm} height={shown.heightMm} className={drawingsCss.piece} />
              {shown.at.map((at, i) => {
                const [w, h] = shown.turned
                  ? [pieces.data.heightMm, pieces.data.widthMm]
                  : [pieces.data.widthMm, pieces.data.heightMm]
                return (
                  <rect
                    key={i}
                    x={at.x}
                    y={shown.heightMm - at.y - h}
                    width={w}
                    height={h}
                    className={drawingsCss.copy}
                  />
                )
              })}
            </svg>
            <figcaption>
              {shown.copies} {shown.copies === 1 ? 'copy' : 'copies'}
              {shown.turned && ', turned by a quarter'}. Left whole: {size(shown.leftWidthMm, shown.leftHeightMm)}{' '}
              {unit}. A held edge of {lengthIn(unit, pieces.data.edgeMm)} {unit} is kept free.{' '}
              <Link
                to={`/ask?${new URLSearchParams({
                  operations: pieces.data.operations.join(','),
                  material: sheeting.materialId,
                  thickness: `${shown.thicknessMm} mm`,
                  machine: sheeting.machineId,
                  tag: shown.tag,
                  // A drawing brings the time of one copy.
                  ...(shown.copies > 1 && { run: String(Math.ceil((shown.copies * report.time.runSeconds) / 6) / 10) }),
                  drawing: id,
                })}`}
              >
                Ask the gate with {shown.tag}
                {shown.copies > 1 && `, ${shown.copies} runs`}
              </Link>
            </figcaption>
          </figure>
        )}
      </div>
    </section>
  )
}
