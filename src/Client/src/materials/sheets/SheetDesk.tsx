import { useAction } from '../../kit/Act'
import { useQuery } from '@tanstack/react-query'
import { useState, type SubmitEvent } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { Link, useNavigate } from 'react-router'
import { answer, client, type Schemas } from '../../kit/api'
import { Empty, Failure, fieldErrors, PageHead, TextField } from '../../kit/parts'
import { hasRole, sheetsQuery, useSession } from '../../kit/session'
import { Standing } from '../../kit/Standing'
import { lengthIn, useUnit } from '../../kit/units'
import { MaterialField } from '../MaterialField'
import { SizeFields } from './SizeFields'
import rulingsCss from '../rulings.module.css'

/** Every sheet with a tag, what waits first; and the form that gives a new one its tag. */
export function SheetDesk() {
  const { me } = useSession()
  const sheets = useQuery(sheetsQuery)
  const navigate = useNavigate()
  const [adding, setAdding] = useState(false)
  const [tag, setTag] = useState('')
  const [all, setAll] = useState(false)
  if (!sheets.data) return <Failure error={sheets.error} retry={() => void sheets.refetch()} />
  const waits = (s: Schemas['SheetResponse']) => !s.cleared && s.state !== 'retired' && s.state !== 'refused'
  const shown = sheets.data.filter((s) => all || s.state !== 'retired')
  const ordered = [...shown].sort((a, b) => Number(waits(b)) - Number(waits(a)) || a.tag.localeCompare(b.tag))
  return (
    <>
      <PageHead title="Sheets" sub={`${shown.filter(waits).length} waiting. A sheet is used by its tag.`}>
        <Link to="/identify">What can it be?</Link>
        <Link to="/materials">The shelf</Link>
      </PageHead>
      <Form
        className={rulingsCss.shelfwish}
        aria-label="Find a sheet"
        onSubmit={(event: SubmitEvent) => {
          event.preventDefault()
          if (tag.trim()) void navigate(`/sheets/${encodeURIComponent(tag.trim())}`)
        }}
      >
        <Form.Control
          size="sm"
          aria-label="Tag, typed or scanned"
          placeholder="Tag, such as S-0097"
          value={tag}
          onChange={(e) => setTag(e.target.value)}
        />
        <Button size="sm" type="submit" variant="outline-primary">
          Open the sheet
        </Button>
        <Button size="sm" type="button" onClick={() => setAdding(!adding)} aria-expanded={adding}>
          {hasRole(me, 'steward') ? 'Register sheets' : 'Register a sheet you bring'}
        </Button>
        <Form.Check id="sheets-all" label="used-up too" checked={all} onChange={(e) => setAll(e.target.checked)} />
      </Form>
      {adding && <Register close={() => setAdding(false)} />}
      {ordered.length === 0 ? (
        <Empty title="No sheet has a tag yet">
          A sheet gets its tag when it is registered; a steward clears it on its evidence.
        </Empty>
      ) : (
        <SheetTable sheets={ordered} />
      )}
    </>
  )
}

export function SheetStanding({
  sheet,
}: {
  sheet: Pick<Schemas['SheetResponse'], 'quarantined' | 'cleared' | 'clearedUntil' | 'state'>
}) {
  const { time } = useSession()
  if (sheet.quarantined) return <Standing standing="shut" word="In quarantine" width={18} />
  if (sheet.cleared)
    return (
      <Standing standing="clear" word={`Cleared to ${time.date(Date.parse(sheet.clearedUntil!) - 1)}`} width={18} />
    )
  if (sheet.state === 'retired') return <span className="quiet">Used up</span>
  const word = { moreWanted: 'More needed', recheck: 'To re-check', refused: 'Refused' }[sheet.state] ?? 'Not cleared'
  return <Standing standing="ask" word={word} width={18} />
}

function SheetTable({ sheets }: { sheets: Schemas['SheetResponse'][] }) {
  const unit = useUnit()
  const [chosen, setChosen] = useState<string[]>([])
  return (
    <>
      <div className="shelfscroll mt-2" tabIndex={0} role="region" aria-label="Sheets with a tag">
        <table className={`plain ${rulingsCss.sheettable}`}>
          <thead>
            <tr>
              <th>
                <span className="visually-hidden">Label</span>
              </th>
              <th>Tag</th>
              <th>Material</th>
              <th className="r">Thick, {unit}</th>
              <th className="r">Size, {unit}</th>
              <th>State</th>
            </tr>
          </thead>
          <tbody>
            {sheets.map((s) => (
              <tr key={s.tag}>
                <td>
                  <Form.Check
                    aria-label={`Label for ${s.tag}`}
                    checked={chosen.includes(s.tag)}
                    onChange={() =>
                      setChosen(chosen.includes(s.tag) ? chosen.filter((t) => t !== s.tag) : [...chosen, s.tag])
                    }
                  />
                </td>
                <td>
                  <Link to={`/sheets/${s.tag}`}>
                    <b>{s.tag}</b>
                  </Link>
                </td>
                <td>{s.materialName}</td>
                <td className="r">{lengthIn(unit, s.thicknessMm)}</td>
                <td className="r">
                  {lengthIn(unit, s.widthMm)} × {lengthIn(unit, s.heightMm)}
                </td>
                <td>
                  <SheetStanding sheet={s} />
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {chosen.length > 0 && (
        <a
          className="btn btn-outline-primary btn-sm mt-2"
          href={`/api/sheet-labels.pdf?tags=${chosen.join(',')}&unit=${unit}`}
        >
          Labels for {chosen.length} {chosen.length === 1 ? 'sheet' : 'sheets'} (PDF)
        </a>
      )}
    </>
  )
}

const blank = {
  materialId: '',
  thickness: '',
  width: '',
  height: '',
  supplier: '',
  batch: '',
  count: '1',
  stock: false,
}

function Register({ close }: { close: () => void }) {
  const { me } = useSession()
  const unit = useUnit()
  const [draft, setDraft] = useState(blank)
  const put = (changed: Partial<typeof blank>) => setDraft({ ...draft, ...changed })
  const register = useAction(() =>
    answer(
      client.POST('/api/sheets', {
        body: {
          materialId: draft.materialId,
          thickness: draft.thickness,
          width: draft.width,
          height: draft.height,
          supplier: draft.supplier,
          batch: draft.batch,
          houseStock: draft.stock,
          count: Number(draft.count) || 0,
          unit,
        },
      }),
    ),
  )
  const errors = fieldErrors(register.error)
  if (register.data)
    return (
      <div className="ruledone" role="status">
        <p>
          Write the number on the sheet, or print its label:{' '}
          {register.data.tags.map((t, i) => (
            <span key={t}>
              {i > 0 && ', '}
              <Link to={`/sheets/${t}`}>
                <b>{t}</b>
              </Link>
            </span>
          ))}
          . Add order page, label or data sheet on the sheet’s page: a steward clears it on that.
        </p>
        <a
          className="btn btn-outline-primary btn-sm me-2"
          href={`/api/sheet-labels.pdf?tags=${register.data.tags.join(',')}&unit=${unit}`}
        >
          Labels (PDF)
        </a>
        <Button size="sm" variant="link" onClick={close}>
          Close
        </Button>
      </div>
    )
  return (
    <Form
      noValidate
      className="rulingform"
      aria-label="Register a sheet"
      onSubmit={(event: SubmitEvent) => {
        event.preventDefault()
        register.mutate()
      }}
    >
      <div className="inlineform">
        <MaterialField
          id="sheet-material"
          label="Sold as"
          error={errors.materialId}
          value={draft.materialId}
          put={(value) => put({ materialId: value })}
        />
        <SizeFields id="sheet-" unit={unit} draft={draft} put={put} errors={errors} />
      </div>
      <div className="inlineform">
        <TextField
          id="sheet-supplier"
          label="Supplier"
          error={errors.supplier}
          value={draft.supplier}
          put={(value) => put({ supplier: value })}
        />
        <TextField
          id="sheet-batch"
          label="Batch or order"
          error={errors.batch}
          value={draft.batch}
          put={(value) => put({ batch: value })}
        />
        <TextField
          id="sheet-count"
          label="How many"
          error={errors.count}
          inputMode="numeric"
          value={draft.count}
          put={(value) => put({ count: value })}
        />
      </div>
      {hasRole(me, 'steward') && (
        <Form.Check
          id="sheet-stock"
          label="The house’s own stock"
          checked={draft.stock}
          onChange={(e) => put({ stock: e.target.checked })}
        />
      )}
      <Failure error={register.isError && Object.keys(errors).length === 0 ? register.error : null} />
      <Button type="submit" className="mt-2 me-2" disabled={register.isPending}>
        Give it a tag
      </Button>
      <Button type="button" variant="link" className="mt-2" onClick={close}>
        Cancel
      </Button>
    </Form>
  )
}
