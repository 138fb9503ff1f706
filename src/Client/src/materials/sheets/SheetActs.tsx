import { useAction } from '../../kit/Act'
import { useState, type ReactNode } from 'react'
import Button from 'react-bootstrap/Button'
import { Link } from 'react-router'
import { answer, client, type Schemas } from '../../kit/api'
import { Failure, fieldErrors, TextField } from '../../kit/parts'
import { useUnit } from '../../kit/units'
import { ReportOutcome } from './ReportOutcome'
import { Clear } from './SheetClear'
import rulingsCss from '../rulings.module.css'

type Detail = Schemas['SheetDetail']

/** What may be done with a sheet, by whoever looks at it. */
export function SheetActs({ sheet }: { sheet: Detail }) {
  const path = { tag: sheet.tag }
  const may = sheet.mine || sheet.evidence !== null
  return (
    <section className={`mt-3 ${rulingsCss.deskacts}`}>
      {sheet.mayDecide && !sheet.quarantined && sheet.state !== 'retired' && <Clear sheet={sheet} />}
      {sheet.mayDecide && sheet.state !== 'retired' && !sheet.quarantined && (
        <>
          <Reasoned
            title="Ask for more evidence"
            button="Ask for more"
            act={(reason) => answer(client.POST('/api/sheets/{tag}/more', { params: { path }, body: { reason } }))}
          />
          <Reasoned
            title="Refuse and quarantine"
            button="Refuse"
            danger
            act={(reason) => answer(client.POST('/api/sheets/{tag}/refuse', { params: { path }, body: { reason } }))}
          />
        </>
      )}
      {sheet.mayDecide && sheet.quarantined && (
        <Reasoned
          title="End the quarantine"
          button="End it"
          act={(reason) => answer(client.POST('/api/sheets/{tag}/release', { params: { path }, body: { reason } }))}
        />
      )}
      {sheet.state !== 'retired' && !sheet.quarantined && (may || sheet.houseStock) && <Offcut sheet={sheet} />}
      <Reasoned
        title="Something is wrong with it"
        button="Report it"
        danger
        help="It may not be what its label says, it cut badly, or it smelled. The sheet, its pieces and its batch are put away at once."
        act={(reason) => answer(client.POST('/api/sheets/{tag}/report', { params: { path }, body: { reason } }))}
        show={(made) => <ReportOutcome made={made} />}
      />
      {may && sheet.state !== 'retired' && (
        <Reasoned
          title="Used up"
          button="Retire it"
          asks={false}
          act={() => answer(client.POST('/api/sheets/{tag}/retire', { params: { path } }))}
        />
      )}
    </section>
  )
}

/** One act with its written reason. */
function Reasoned<T>({
  title,
  button,
  danger,
  help,
  asks = true,
  act,
  show,
}: {
  title: string
  button: string
  danger?: boolean
  help?: string
  asks?: boolean
  act: (reason: string) => Promise<T>
  show?: (made: T) => ReactNode
}) {
  const [reason, setReason] = useState('')
  const doing = useAction(() => act(reason))
  const errors = fieldErrors(doing.error)
  const id = `act-${title.replaceAll(' ', '-').toLowerCase()}`
  return (
    <details>
      <summary>{title}</summary>
      {help && <p className="small quiet mb-1">{help}</p>}
      {asks && (
        <TextField id={id} label="Why, in a sentence" error={errors.reason} rows={2} value={reason} put={setReason} />
      )}
      {doing.isError && !errors.reason && <Failure error={doing.error} />}
      {doing.data !== undefined && show?.(doing.data)}
      <Button
        size="sm"
        variant={danger ? 'danger' : 'outline-primary'}
        disabled={doing.isPending}
        onClick={() => doing.mutate()}
      >
        {button}
      </Button>
    </details>
  )
}

function Offcut({ sheet }: { sheet: Detail }) {
  const unit = useUnit()
  const [size, setSize] = useState({ width: '', height: '' })
  const cut = useAction(() =>
    answer(client.POST('/api/sheets/{tag}/offcut', { params: { path: { tag: sheet.tag } }, body: { ...size, unit } })),
  )
  const errors = fieldErrors(cut.error)
  return (
    <details>
      <summary>Keep an offcut</summary>
      <div className="inlineform">
        {(['width', 'height'] as const).map((key) => (
          <TextField
            key={key}
            id={`offcut-${key}`}
            label={key === 'width' ? 'Its width' : 'Its height'}
            error={errors[key]}
            placeholder={unit}
            value={size[key]}
            put={(value) => setSize({ ...size, [key]: value })}
          />
        ))}
      </div>
      {cut.isError && Object.keys(errors).length === 0 && <Failure error={cut.error} />}
      {cut.data && (
        <p role="status">
          Write this on it: <Link to={`/sheets/${cut.data.tags[0]}`}>{cut.data.tags[0]}</Link>. It is cleared as its
          sheet is.
        </p>
      )}
      <Button size="sm" variant="outline-primary" disabled={cut.isPending} onClick={() => cut.mutate()}>
        Give the offcut its tag
      </Button>
    </details>
  )
}
