import './materials.css'
import './rulings.css'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useContext, useState, type ReactNode } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { Link, useParams } from 'react-router'
import { answer, client, type Schemas } from '../shared/api'
import { Failure, Field, fieldErrors, Loading, PageHead, RunOn, Ticket } from '../shared/parts'
import { houseQuery, SessionContext } from '../shared/session'
import { Standing } from '../shared/Standing'
import { HouseTime } from '../shared/time'
import { lengthIn, useUnit } from '../shared/units'
import { Clear } from './SheetClear'
import { ReportOutcome } from './ReportOutcome'

type Detail = Schemas['SheetDetail']

/** One sheet by its tag: for everybody what it is and what it is cleared for; for its bringer and staff the rest. */
export function SheetPage() {
  const { tag = '' } = useParams()
  const house = useQuery(houseQuery)
  const sheet = useQuery({
    queryKey: ['live', 'sheets', tag],
    queryFn: ({ signal }) => answer(client.GET('/api/sheets/{tag}', { params: { path: { tag } }, signal })),
    retry: false,
  })
  if (sheet.isPending || !house.data) return <Loading what="the sheet" />
  if (!sheet.data)
    return (
      <>
        <PageHead title={tag} />
        <Failure error={sheet.error} retry={() => void sheet.refetch()} />
        <p>
          Check the number on the tag. A sheet without a tag is for a steward to look at: <b>do not cut it.</b>
        </p>
      </>
    )
  return <Shown sheet={sheet.data} time={new HouseTime(house.data.zone)} />
}

function Shown({ sheet, time }: { sheet: Detail; time: HouseTime }) {
  const unit = useUnit()
  const inside = useContext(SessionContext)
  const size = `${lengthIn(unit, sheet.widthMm)} × ${lengthIn(unit, sheet.heightMm)} × ${lengthIn(unit, sheet.thicknessMm)} ${unit}`
  const word = {
    waiting: 'Not cleared',
    moreWanted: 'More evidence wanted',
    recheck: 'To re-check',
    refused: 'Refused',
  }[sheet.state]
  return (
    <>
      <PageHead title={sheet.tag} sub={`${sheet.materialName}, ${size}`}>
        {inside && <Link to="/sheets">All sheets</Link>}
      </PageHead>
      <div className="shelfpage sheetpage">
        <div>
          <p className="sheetword">
            {sheet.quarantined ? (
              <Standing standing="shut" word="In quarantine: do not use it" />
            ) : sheet.cleared ? (
              <Standing standing="clear" word={`Cleared to ${time.date(Date.parse(sheet.clearedUntil!) - 1)}`} />
            ) : sheet.state === 'retired' ? (
              'Used up'
            ) : (
              <Standing standing="ask" word={`${word}: a steward looks at it first`} />
            )}
          </p>
          {sheet.cleared && (
            <p>
              To {sheet.operations.join(', ')} on{' '}
              {sheet.machines.length === 0 ? 'every machine here' : sheet.machines.join(', ')}, for what the house
              permits.
            </p>
          )}
          <p className="quiet">
            {sheet.houseStock
              ? 'House stock.'
              : sheet.mine
                ? 'You brought it.'
                : sheet.broughtBy
                  ? `Brought by ${sheet.broughtBy}.`
                  : 'Brought in.'}{' '}
            {sheet.supplier && `From ${sheet.supplier}. `}
            {sheet.batch && `Batch ${sheet.batch}. `}
            {sheet.parentTag && (
              <>
                Offcut of <Link to={`/sheets/${sheet.parentTag}`}>{sheet.parentTag}</Link>.
              </>
            )}
          </p>
          {sheet.note && <p>Last word on it: {sheet.note}</p>}
          {sheet.family.length > 0 && (
            <p>
              Same sheet or batch:{' '}
              {sheet.family.map((t, i) => (
                <span key={t}>
                  {i > 0 && ', '}
                  <Link to={`/sheets/${t}`}>{t}</Link>
                </span>
              ))}
            </p>
          )}
          {inside && sheet.evidence && <Evidence sheet={sheet} time={time} />}
          {inside && <Acts sheet={sheet} />}
        </div>
        <Ticket label="Code">
          <img className="tagcode" src={`/api/sheets/${sheet.tag}/code.svg`} alt={`QR code of ${sheet.tag}`} />
          <h2>{sheet.tag}</h2>
          {inside ? (
            <>
              <p>
                <a href={`/api/sheet-labels.pdf?tags=${sheet.tag}&unit=${unit}`}>Label (PDF)</a>
              </p>
              <Link
                className="btn btn-outline-primary btn-sm"
                to={`/ask?material=${sheet.materialId}&tag=${sheet.tag}&thickness=${encodeURIComponent(`${sheet.thicknessMm} mm`)}&operations=cut`}
              >
                Ask the gate about it
              </Link>
            </>
          ) : (
            <Link className="btn btn-outline-primary btn-sm" to="/">
              Sign in to use or report it
            </Link>
          )}
        </Ticket>
      </div>
    </>
  )
}

function Evidence({ sheet, time }: { sheet: Detail; time: HouseTime }) {
  const queries = useQueryClient()
  const add = useMutation({
    mutationFn: (file: File) => {
      const form = new FormData()
      form.append('file', file)
      return answer(
        client.POST('/api/sheets/{tag}/evidence', {
          params: { path: { tag: sheet.tag } },
          body: form as never,
          bodySerializer: (body) => body as unknown as FormData,
        }),
      )
    },
    onSuccess: () => queries.invalidateQueries({ queryKey: ['live', 'sheets'] }),
  })
  const errors = fieldErrors(add.error)
  return (
    <section className="mt-3">
      <RunOn title="Evidence" after={sheet.evidence!.length} />
      <ul className="plainlist">
        {sheet.evidence!.map((e) => (
          <li key={e.id}>
            <a href={`/api/sheets/${sheet.tag}/evidence/${e.id}`}>{e.name}</a>{' '}
            <span className="quiet">
              {e.mediaType.split('/')[1]!.toUpperCase()}, {Math.ceil(e.length / 1024)} kB, {time.moment(e.at)}
            </span>
          </li>
        ))}
      </ul>
      <Field id="evidence-file" label="Order page, label or data sheet: PDF, PNG or JPEG, to 25 MB" error={errors.file}>
        <Form.Control
          id="evidence-file"
          type="file"
          accept=".pdf,.png,.jpg,.jpeg"
          isInvalid={!!errors.file}
          disabled={add.isPending}
          onChange={(e) => {
            const file = (e.target as HTMLInputElement).files?.[0]
            if (file) add.mutate(file)
          }}
        />
      </Field>
      {add.isError && !errors.file && <Failure error={add.error} />}
    </section>
  )
}

function Acts({ sheet }: { sheet: Detail }) {
  const path = { tag: sheet.tag }
  const may = sheet.mine || sheet.evidence !== undefined
  return (
    <section className="mt-3 deskacts">
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
        help="It may be another stuff than it says, it cut badly, it smelled. The sheet, its pieces and its batch are put away at once."
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
  const queries = useQueryClient()
  const doing = useMutation({
    mutationFn: () => act(reason),
    onSuccess: () => queries.invalidateQueries({ queryKey: ['live'] }),
  })
  const errors = fieldErrors(doing.error)
  const id = `act-${title.replaceAll(' ', '-').toLowerCase()}`
  return (
    <details>
      <summary>{title}</summary>
      {help && <p className="small quiet mb-1">{help}</p>}
      {asks && (
        <Field id={id} label="Why, in a sentence" error={errors.reason}>
          <Form.Control
            as="textarea"
            rows={2}
            id={id}
            value={reason}
            isInvalid={!!errors.reason}
            onChange={(e) => setReason(e.target.value)}
          />
        </Field>
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
  const queries = useQueryClient()
  const cut = useMutation({
    mutationFn: () =>
      answer(
        client.POST('/api/sheets/{tag}/offcut', { params: { path: { tag: sheet.tag } }, body: { ...size, unit } }),
      ),
    onSuccess: () => queries.invalidateQueries({ queryKey: ['live'] }),
  })
  const errors = fieldErrors(cut.error)
  return (
    <details>
      <summary>Keep an offcut</summary>
      <div className="inlineform">
        {(['width', 'height'] as const).map((key) => (
          <Field
            key={key}
            id={`offcut-${key}`}
            label={key === 'width' ? 'Its width' : 'Its height'}
            error={errors[key]}
          >
            <Form.Control
              id={`offcut-${key}`}
              placeholder={unit}
              value={size[key]}
              isInvalid={!!errors[key]}
              onChange={(e) => setSize({ ...size, [key]: e.target.value })}
            />
          </Field>
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
