import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { useNavigate } from 'react-router'
import { answer, client, type Schemas } from '../kit/api'
import { Failure, Field, fieldErrors, RunOn } from '../kit/parts'
import { lengthIn, useUnit } from '../kit/units'
import drawingsCss from './drawings.module.css'

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
  thin: (s) => `${s.count} cut ${s.count === 1 ? 'shape' : 'shapes'} drawn as hairlines`,
  near: (s, mm) => (s.count ? `${mm} of nearly doubled line taken out` : 'no nearly doubled line'),
  close: (s, mm) => (s.count ? `${s.count} ${s.count === 1 ? 'gap' : 'gaps'} closed, ${mm} in all` : 'no gap to close'),
}

const mostColours = 12
const shownHere = ['doubled', 'close', 'scale', 'width']

/** Chooses what to mend of a drawing, shows what comes of it, and takes it away or keeps it. */
export function Mend({
  id,
  report,
  sheeting,
  colours: known,
  shown,
  show,
}: {
  id: string
  report: Schemas['DrawingReport']
  /** What the house's colour map knows. */
  colours: Schemas['ColourResponse'][]
  sheeting: Sheeting
  shown: Schemas['MendResponse'] | undefined
  show: (mended: Schemas['MendResponse'] | undefined) => void
}) {
  const unit = useUnit()
  const navigate = useNavigate()
  const queries = useQueryClient()
  const has = (code: string) => report.findings.some((f) => f.code === code)
  const cut = known.find((c) => c.operation === 'cut')?.colour
  const [doubled, setDoubled] = useState(has('line.duplicate'))
  const [near, setNear] = useState(has('line.near'))
  const [close, setClose] = useState(has('path.open') ? '0.1 mm' : '')
  const [thin, setThin] = useState(has('stroke.wide'))
  const [outline, setOutline] = useState('')
  const [scale, setScale] = useState('1')
  const [width, setWidth] = useState('')
  const [colours, setColours] = useState<Record<string, string>>({})
  const body: Schemas['MendRequest'] = {
    ...sheeting,
    unit,
    doubled,
    near,
    thin,
    close: close.trim() || undefined,
    outline: outline || undefined,
    scale,
    width: width.trim() || undefined,
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
      void navigate(`/drawings/${made.id}`)
    },
  })
  const take = useMutation({
    mutationFn: async (format: 'svg' | 'dxf') => {
      const call = client.POST('/api/drawings/{id}/mend/file', {
        params: { path: { id }, query: { format } },
        body,
        parseAs: 'blob',
      })
      const file = await answer(call)
      const named = (await call).response.headers.get('Content-Disposition')?.match(/filename\*=UTF-8''([^;]+)/)
      const link = document.createElement('a')
      link.href = URL.createObjectURL(file)
      link.download = named ? decodeURIComponent(named[1]!) : `mended.${format}`
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
  const toggles: [string, string, boolean, (on: boolean) => void][] = [
    ['doubled', 'Take out doubled lines', doubled, setDoubled],
    ['near', 'Take out cuts nearer than the kerf', near, setNear],
  ]
  if (thin || has('stroke.wide')) toggles.push(['thin', 'Draw cut lines as hairlines', thin, setThin])
  if (cut)
    toggles.push(['outline', `Make filled shapes outlines in ${cut}`, !!outline, (on) => setOutline(on ? cut : '')])
  const blanks: ['close' | 'scale' | 'width', string, string, (text: string) => void][] = [
    ['close', 'Close gaps up to', close, setClose],
    ['scale', 'Scale by', scale, setScale],
    ['width', 'Or set the whole width', width, setWidth],
  ]
  const busy = look.isPending || keep.isPending || take.isPending
  const cuts = (r: Schemas['DrawingReport']) =>
    r.strokes.filter((s) => s.operation === 'cut').reduce((sum, s) => sum + s.lengthMm, 0)
  return (
    <section className="mend" aria-label="Mend">
      <RunOn title="Mend" />
      <p className="small quiet">Makes a mended copy; this drawing stays no change.</p>
      <Form
        onSubmit={(event) => {
          event.preventDefault()
          look.mutate()
        }}
      >
        {toggles.map(([key, label, on, set]) => (
          <Form.Check
            key={key}
            id={`mend-${key}`}
            label={label}
            checked={on}
            onChange={(e) => change(set)(e.target.checked)}
          />
        ))}
        {errors.doubled && <p className="text-danger small mb-1">{errors.doubled.join(' ')}</p>}
        <div className={drawingsCss.mendfields}>
          {blanks.map(([key, label, value, set]) => (
            <Field key={key} label={label} id={`mend-${key}`} error={errors[key]}>
              <Form.Control
                id={`mend-${key}`}
                value={value}
                isInvalid={!!errors[key]}
                onChange={(e) => change(set)(e.target.value)}
              />
            </Field>
          ))}
        </div>
        {report.strokes.length > 0 && (
          <details className="mb-3" open={report.strokes.some((s) => s.operation === 'unknown')}>
            <summary>Change what a colour means</summary>
            {report.strokes.slice(0, mostColours).map((s) => (
              <Field key={s.colour} label={`${s.colour}, ${s.operation}`} id={`mend-${s.colour}`}>
                <Form.Select
                  id={`mend-${s.colour}`}
                  value={colours[s.colour] ?? s.colour}
                  onChange={(e) => change(setColours)({ ...colours, [s.colour]: e.target.value })}
                >
                  <option value={s.colour}>no change</option>
                  {known
                    .filter((c) => c.colour !== s.colour)
                    .map((c) => (
                      <option key={c.colour} value={c.colour}>
                        {c.colour}, {c.operation}
                      </option>
                    ))}
                </Form.Select>
              </Field>
            ))}
          </details>
        )}
        {failed && !Object.keys(errors).some((key) => shownHere.includes(key)) && <Failure error={failed} />}
        <Button type="submit" variant="outline-primary" disabled={busy}>
          {look.isPending ? 'Mending …' : 'Show what it does'}
        </Button>
      </Form>
      {shown && (
        <div className={drawingsCss.mended} aria-live="polite">
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
          <div className={drawingsCss.mendacts}>
            <Button onClick={() => keep.mutate()} disabled={busy}>
              Keep it
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
