import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useDeferredValue, useState } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { answer, client } from '../kit/api'
import { Failure, Field, fieldErrors, RunOn } from '../kit/parts'
import { useMachines } from '../kit/session'
import { lengthIn, useUnit } from '../kit/units'
import { Layout } from './Layout'
import { anchors, turns, type Laid } from './laying'
import drawingsCss from './drawings.module.css'

/** Cleared sheets and offcuts that the drawing lies on, the smallest offcut first, and one drawing of all its copies. */
export function OnSheet({
  id,
  sheeting,
  placed,
}: {
  id: string
  sheeting: { machineId: string; materialId: string; thickness: string }
  /** One drawing of all copies was made, on this sheet. */
  placed: (drawing: string, tag: string, leftOut: string[]) => void
}) {
  const unit = useUnit()
  const queries = useQueryClient()
  const machine = useMachines().data?.find((m) => m.id === sheeting.machineId)
  const [laid, setLaid] = useState<Laid>({ copies: '1', quarters: '', mirror: false, anchor: 'lowerLeft' })
  const wish = useDeferredValue(laid)
  const [tag, setTag] = useState('')
  const query = {
    ...sheeting,
    unit,
    copies: Number(wish.copies),
    quarters: wish.quarters === '' ? undefined : Number(wish.quarters),
    anchor: wish.anchor,
  }
  const pieces = useQuery({
    queryKey: ['live', 'pieces', id, query],
    queryFn: ({ signal }) =>
      answer(client.GET('/api/drawings/{id}/pieces', { params: { path: { id }, query }, signal })),
    enabled: /^\d+$/.test(wish.copies.trim()),
    placeholderData: keepPreviousData,
    retry: false,
  })
  const items = pieces.isError ? [] : (pieces.data?.items ?? [])
  const shown = items.find((p) => p.tag === tag) ?? items[0]
  const place = useMutation({
    mutationFn: () =>
      answer(
        client.POST('/api/drawings/{id}/place', {
          params: { path: { id } },
          body: { ...query, mirror: wish.mirror, tag: shown?.tag },
        }),
      ),
    onSuccess: async ({ drawing, leftOut }) => {
      await queries.invalidateQueries({ queryKey: ['drawings'] })
      placed(drawing.id, shown?.tag ?? '', leftOut)
    },
  })
  const errors = fieldErrors(pieces.error)
  const put = (change: Partial<Laid>) => setLaid((before) => ({ ...before, ...change }))
  const size = (width: number, height: number) => `${lengthIn(unit, width)} x ${lengthIn(unit, height)}`
  return (
    <section className="mt-3">
      <RunOn title="On a sheet" after={items.length} />
      <div className={drawingsCss.onsheet}>
        <div>
          <div className={drawingsCss.laying}>
            <Field label="Copies" id="copies" error={errors.copies}>
              <Form.Control
                id="copies"
                inputMode="numeric"
                value={laid.copies}
                onChange={(e) => put({ copies: e.target.value })}
              />
            </Field>
            <Field label="From" id="anchor" error={errors.anchor}>
              <Form.Select id="anchor" value={laid.anchor} onChange={(e) => put({ anchor: e.target.value })}>
                {anchors.map(([value, label]) => (
                  <option key={value} value={value}>
                    {label}
                  </option>
                ))}
              </Form.Select>
            </Field>
            <Field label="Turned to the right" id="quarters" error={errors.quarters}>
              <Form.Select id="quarters" value={laid.quarters} onChange={(e) => put({ quarters: e.target.value })}>
                {turns.map(([value, label]) => (
                  <option key={value} value={value}>
                    {label}
                  </option>
                ))}
              </Form.Select>
            </Field>
            <Form.Check
              id="mirror"
              label="Mirrored, for a stamp"
              checked={laid.mirror}
              onChange={(e) => put({ mirror: e.target.checked })}
            />
          </div>
          {Object.keys(errors).length === 0 && <Failure error={pieces.error} />}
          {pieces.data && items.length === 0 && (
            <p className="quiet">No cleared sheet or offcut of this material and thickness takes it so.</p>
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
          <Layout piece={shown} part={pieces.data} mirror={laid.mirror}>
            {machine && (
              <>
                {machine.name}’s home corner: {machine.homeCorner}.{' '}
              </>
            )}
            <Button size="sm" disabled={place.isPending} onClick={() => place.mutate()}>
              Make one drawing of it
            </Button>
            <Failure error={place.error} />
          </Layout>
        )}
      </div>
    </section>
  )
}
