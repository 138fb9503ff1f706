import { useMutation, useQuery } from '@tanstack/react-query'
import { useState, type SubmitEvent } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { Link } from 'react-router'
import { answer, client } from '../kit/api'
import { Failure, Field, fieldErrors, PageHead, RunOn, TextField } from '../kit/parts'
import { hasRole, useSession } from '../kit/session'
import { useUnit } from '../kit/units'
import { RulesOfThumb } from './RulesOfThumb'
import rulingsCss from './rulings.module.css'

/** What weight and size exclude; and why no length of vinyl is ever short enough. */
export function IdentifyPage() {
  const { me } = useSession()
  return (
    <>
      <PageHead title="What can it be?" sub="Tests exclude. They never permit.">
        <Link to="/sheets">Sheets</Link>
      </PageHead>
      {hasRole(me, 'steward') && <Weigh />}
      <Chloride />
    </>
  )
}

const blank = { massG: '', massOffG: '0.05', length: '', width: '', thickness: '', sizeOff: '', thicknessOff: '' }

function Weigh() {
  const unit = useUnit()
  const form = useQuery({
    queryKey: ['identification'],
    queryFn: ({ signal }) => answer(client.GET('/api/identification', { signal })),
  })
  const [draft, setDraft] = useState(blank)
  const [plain, setPlain] = useState(false)
  const [flame, setFlame] = useState('')
  const [flameReason, setFlameReason] = useState('')
  const [cutBadly, setCutBadly] = useState(false)
  const number = (text: string) => (text.trim() ? Number(text.replace(',', '.')) : undefined)
  const identify = useMutation({
    mutationFn: () =>
      answer(
        client.POST('/api/identification', {
          body: {
            ...draft,
            massG: number(draft.massG),
            massOffG: number(draft.massOffG),
            plain,
            flame: flame === '' ? undefined : flame === 'green',
            flameReason: flame === '' ? undefined : flameReason,
            cutBadly,
            unit,
          },
        }),
      ),
  })
  const errors = fieldErrors(identify.error)
  const fields = [
    ['massG', 'Mass, g', errors.mass],
    ['massOffG', 'Scale may be off by, g', errors.massOff],
    ['length', 'Length', errors.length],
    ['width', 'Width', errors.width],
    ['sizeOff', 'Each may be wrong by', errors.sizeOff],
    ['thickness', 'Thickness', errors.thickness],
    ['thicknessOff', 'May be wrong by', errors.thicknessOff],
  ] as const
  return (
    <section className="mt-3">
      <RunOn title="Weigh a piece" />
      <ul className="small">
        {form.data?.cautions.map((c) => (
          <li key={c}>{c}</li>
        ))}
      </ul>
      {form.data && <RulesOfThumb rules={form.data.rulesOfThumb} />}
      <Form
        noValidate
        aria-label="Weigh a piece"
        onSubmit={(event: SubmitEvent) => {
          event.preventDefault()
          identify.mutate()
        }}
      >
        <div className="inlineform">
          {fields.map(([key, label, error]) => (
            <TextField
              key={key}
              id={`weigh-${key}`}
              label={label}
              error={error}
              placeholder={key.startsWith('mass') ? 'g' : unit}
              value={draft[key]}
              put={(value) => setDraft({ ...draft, [key]: value })}
            />
          ))}
        </div>
        <Form.Check
          id="weigh-plain"
          label="I looked: solid, one layer, no foam, filler, coating or film"
          checked={plain}
          isInvalid={!!errors.plain}
          onChange={(e) => setPlain(e.target.checked)}
        />
        {errors.plain && (
          <div className="invalid-feedback d-block" role="alert">
            {errors.plain.join(' ')}
          </div>
        )}
        <Form.Check
          id="weigh-badly"
          label="A cut that happened already went very badly, left sticky residue or smelled choking"
          checked={cutBadly}
          onChange={(e) => setCutBadly(e.target.checked)}
        />
        {form.data?.flameOffered && (
          <Field id="weigh-flame" label="Flame test, if a trained steward made it" error={errors.flame}>
            <Form.Select id="weigh-flame" value={flame} onChange={(e) => setFlame(e.target.value)}>
              <option value="">not made</option>
              <option value="green">green</option>
              <option value="none">no green</option>
            </Form.Select>
          </Field>
        )}
        {flame !== '' && (
          <Field id="weigh-flame-reason" label="Why it was made, and where" error={errors.flameReason}>
            <Form.Control
              id="weigh-flame-reason"
              value={flameReason}
              isInvalid={!!errors.flameReason}
              onChange={(e) => setFlameReason(e.target.value)}
            />
          </Field>
        )}
        {identify.isError && Object.keys(errors).length === 0 && <Failure error={identify.error} />}
        <Button type="submit" className="mt-2" disabled={identify.isPending}>
          What does it exclude?
        </Button>
      </Form>
      {identify.data && (
        <div className="ruledone" role="status">
          <p>
            {identify.data.density.value.toFixed(3)} g/cm³, between {identify.data.density.low.toFixed(3)} and{' '}
            {identify.data.density.high.toFixed(3)} (k = 2).
          </p>
          <p>
            <b>{identify.data.says}</b>
          </p>
          <ul>
            {identify.data.warnings.map((w) => (
              <li key={w}>{w}</li>
            ))}
            {identify.data.possible.length > 0 && <li>Still possible: {identify.data.possible.join(', ')}.</li>}
            <li>Excluded by weight: {identify.data.excluded.join(', ')}.</li>
          </ul>
        </div>
      )}
    </section>
  )
}

/** Two digits that mean something. */
const ppm = (value: number) => (value >= 10 ? String(Math.round(value)) : value.toPrecision(2))

function Chloride() {
  const unit = useUnit()
  const [draft, setDraft] = useState({ cut: '100 mm', thickness: '3 mm', kerf: '0.25 mm', enclosure: '0.3', room: '' })
  const outcome = useQuery({
    queryKey: ['chloride', draft, unit],
    queryFn: ({ signal }) =>
      answer(
        client.GET('/api/chloride', {
          params: {
            query: {
              cut: draft.cut,
              thickness: draft.thickness,
              kerf: draft.kerf,
              unit,
              enclosure: draft.enclosure.trim() ? Number(draft.enclosure.replace(',', '.')) : undefined,
              room: draft.room.trim() ? Number(draft.room.replace(',', '.')) : undefined,
            },
          },
          signal,
        }),
      ),
    retry: false,
  })
  const errors = fieldErrors(outcome.error)
  const fields = [
    ['cut', 'Length of the cut'],
    ['thickness', 'Thickness'],
    ['kerf', 'Kerf'],
    ['enclosure', 'Enclosure, m³'],
    ['room', 'Room, m³'],
  ] as const
  return (
    <section className="mt-4">
      <RunOn title="Why vinyl is never allowed" />
      <div className="inlineform mt-2" role="group" aria-label="A cut in vinyl">
        {fields.map(([key, label]) => (
          <TextField
            key={key}
            id={`hcl-${key}`}
            label={label}
            error={errors[key]}
            value={draft[key]}
            put={(value) => setDraft({ ...draft, [key]: value })}
          />
        ))}
      </div>
      {outcome.isError && Object.keys(errors).length === 0 && <Failure error={outcome.error} />}
      {outcome.data && (
        <>
          <p className={rulingsCss.sheetword}>
            <b>{ppm(outcome.data.enclosurePpm)} ppm</b> of hydrogen chloride in the enclosure
            {outcome.data.roomPpm != null && `, and if it all leaks, ${ppm(outcome.data.roomPpm)} ppm in the room`}.
          </p>
          <p>
            {outcome.data.hclMg.toPrecision(3)} mg of acid from {outcome.data.vinylMg.toPrecision(3)} mg of vinyl.
            NIOSH’s ceiling is {outcome.data.ceilingPpm} ppm. <b>{outcome.data.says}</b>
          </p>
          <ul className="small quiet">
            {outcome.data.assumptions.map((a) => (
              <li key={a}>{a}</li>
            ))}
          </ul>
        </>
      )}
    </section>
  )
}
