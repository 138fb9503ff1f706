import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { useNavigate } from 'react-router'
import { answer, client, type Schemas } from '../shared/api'
import { Failure, Field, fieldErrors, RunOn } from '../shared/parts'
import { lengthIn, useUnit } from '../shared/units'

export interface Sheeting {
  machineId: string | undefined
  materialId: string
  thickness: string
}

const did: Record<string, (step: Schemas['MendStep'], mm: string) => string> = {
  recolour: (s) => `${s.count} ${s.count === 1 ? 'shape' : 'shapes'} in another colour`,
  outline: (s) => `${s.count} filled ${s.count === 1 ? 'shape' : 'shapes'} made an outline`,
  scale: (s) => `${s.count} ${s.count === 1 ? 'shape' : 'shapes'} scaled`,
  doubled: (s, mm) => (s.count ? `${mm} of doubled line taken out` : 'no doubled line'),
  near: (s, mm) => (s.count ? `${mm} of nearly doubled line taken out` : 'no nearly doubled line'),
  close: (s, mm) => (s.count ? `${s.count} ${s.count === 1 ? 'gap' : 'gaps'} closed, ${mm} in all` : 'no gap to close'),
}

/** Chooses what to mend of a drawing, shows what comes of it, and takes it away or puts it on the bench. */
export function Mend({
  id,
  report,
  sheeting,
  shown,
  show,
}: {
  id: string
  report: Schemas['DrawingReport']
  sheeting: Sheeting
  shown: Schemas['MendAnswer'] | undefined
  show: (mended: Schemas['MendAnswer'] | undefined) => void
}) {
  const unit = useUnit()
  const navigate = useNavigate()
  const queries = useQueryClient()
  const has = (code: string) => report.findings.some((f) => f.code === code)
  const cut = report.strokes.find((s) => s.operation === 'cut')?.colour ?? '#ff0000'
  const [doubled, setDoubled] = useState(has('line.duplicate'))
  const [near, setNear] = useState(has('line.near'))
  const [close, setClose] = useState(has('path.open') ? '0.1 mm' : '')
  const [outline, setOutline] = useState(false)
  const [scale, setScale] = useState('1')
  const [colours, setColours] = useState<Record<string, string>>({})
  const body: Schemas['MendRequest'] = {
    ...sheeting,
    unit,
    doubled,
    near,
    close: close.trim() || undefined,
    outline: outline ? cut : undefined,
    scale: Number(scale.replace(',', '.')),
    recolour: Object.entries(colours).map(([from, to]) => ({ from, to })),
  }
  const path = { params: { path: { id } } }
  const look = useMutation({
    mutationFn: () => answer(client.POST('/api/drawings/{id}/mend', { ...path, body })),
    onSuccess: show,
  })
  const keep = useMutation({
    mutationFn: () => answer(client.POST('/api/drawings/{id}/mend/keep', { ...path, body })),
    onSuccess: async (made) => {
      await queries.invalidateQueries({ queryKey: ['drawings'] })
      void navigate(`/bench/${made.id}`)
    },
  })
  const take = useMutation({
    mutationFn: async (format: 'svg' | 'dxf') => {
      const text = await answer(
        client.POST('/api/drawings/{id}/mend/file', {
          params: { path: { id }, query: { format } },
          body,
          parseAs: 'text',
        }),
      )
      const link = document.createElement('a')
      link.href = URL.createObjectURL(new Blob([text as string]))
      link.download = `mended.${format}`
      link.click()
      setTimeout(() => URL.revokeObjectURL(link.href), 10_000)
    },
  })
  const failed = [look, keep, take].find((m) => m.isError)?.error
  const errors = fieldErrors(failed)
  const change =
    <T,>(set: (value: T) => void) =>
    (value: T) => {
      set(value)
      show(undefined)
    }
  const busy = look.isPending || keep.isPending || take.isPending
  const cuts = (r: Schemas['DrawingReport']) =>
    r.strokes.filter((s) => s.operation === 'cut').reduce((sum, s) => sum + s.lengthMm, 0)
  return (
    <section className="mend" aria-label="Mend">
      <RunOn title="Mend" />
      <p className="small quiet">Makes a mended copy; this drawing stays as it is.</p>
      <Form
        onSubmit={(event) => {
          event.preventDefault()
          look.mutate()
        }}
      >
        <Form.Check
          id="mend-doubled"
          label="Take out doubled lines"
          checked={doubled}
          onChange={(e) => change(setDoubled)(e.target.checked)}
        />
        <Form.Check
          id="mend-near"
          label="Take out lines nearer than the kerf"
          checked={near}
          onChange={(e) => change(setNear)(e.target.checked)}
        />
        <Form.Check
          id="mend-outline"
          label={`Make filled shapes outlines in ${cut}`}
          checked={outline}
          onChange={(e) => change(setOutline)(e.target.checked)}
        />
        {errors.doubled && <p className="text-danger small mb-1">{errors.doubled.join(' ')}</p>}
        <div className="mendfields">
          <Field label="Close gaps up to" id="mend-close" error={errors.close}>
            <Form.Control
              id="mend-close"
              value={close}
              placeholder="none"
              isInvalid={!!errors.close}
              onChange={(e) => change(setClose)(e.target.value)}
            />
          </Field>
          <Field label="Times as large" id="mend-scale" error={errors.scale}>
            <Form.Control
              id="mend-scale"
              value={scale}
              inputMode="decimal"
              isInvalid={!!errors.scale}
              onChange={(e) => change(setScale)(e.target.value)}
            />
          </Field>
        </div>
        {report.strokes
          .filter((s) => s.operation === 'unknown' || colours[s.colour] !== undefined)
          .slice(0, 8)
          .map((s) => (
            <Field key={s.colour} label={`Give ${s.colour} another colour`} id={`mend-${s.colour}`}>
              <Form.Select
                id={`mend-${s.colour}`}
                value={colours[s.colour] ?? s.colour}
                onChange={(e) => change(setColours)({ ...colours, [s.colour]: e.target.value })}
              >
                <option value={s.colour}>as it is</option>
                {[
                  ...new Set([
                    ...report.strokes.filter((x) => x.operation !== 'unknown').map((x) => x.colour),
                    ...known,
                  ]),
                ].map((colour) => (
                  <option key={colour} value={colour}>
                    {colour}
                  </option>
                ))}
              </Form.Select>
            </Field>
          ))}
        {failed && Object.keys(errors).length === 0 && <Failure error={failed} />}
        <Button type="submit" variant="outline-primary" disabled={busy}>
          {look.isPending ? 'Mending …' : 'Show what it does'}
        </Button>
      </Form>
      {shown && (
        <div className="mended" aria-live="polite">
          <table className="plain">
            <thead>
              <tr>
                <th />
                <th className="r">Before</th>
                <th className="r">Mended</th>
              </tr>
            </thead>
            <tbody>
              <tr>
                <td>Cut length, {unit}</td>
                <td className="r">{lengthIn(unit, cuts(report))}</td>
                <td className="r">{lengthIn(unit, cuts(shown.report))}</td>
              </tr>
              <tr>
                <td>Must mend</td>
                <td className="r">{report.findings.filter((f) => f.severity === 'stop').length}</td>
                <td className="r">{shown.report.findings.filter((f) => f.severity === 'stop').length}</td>
              </tr>
              <tr>
                <td>Findings</td>
                <td className="r">{report.findings.length}</td>
                <td className="r">{shown.report.findings.length}</td>
              </tr>
            </tbody>
          </table>
          <ul className="small mt-2 mb-2">
            {shown.steps.map((s) => (
              <li key={s.kind}>{did[s.kind]?.(s, `${lengthIn(unit, s.lengthMm)} ${unit}`) ?? s.kind}</li>
            ))}
            {shown.leftOut.map((left) => (
              <li key={left}>
                <b>Left out:</b> {left}
              </li>
            ))}
          </ul>
          <div className="mendacts">
            <Button onClick={() => keep.mutate()} disabled={busy}>
              Put it on the bench
            </Button>
            <Button variant="outline-primary" onClick={() => take.mutate('svg')} disabled={busy}>
              SVG
            </Button>
            <Button variant="outline-primary" onClick={() => take.mutate('dxf')} disabled={busy}>
              DXF
            </Button>
          </div>
        </div>
      )}
    </section>
  )
}

/** What the usual colour map knows; a house's own colours come from its drawings. */
const known = ['#ff0000', '#0000ff', '#000000']
