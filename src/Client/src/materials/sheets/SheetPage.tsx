import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useContext } from 'react'
import Form from 'react-bootstrap/Form'
import { Link, useParams } from 'react-router'
import { answer, client, fileBody, type Schemas } from '../../kit/api'
import { Failure, Field, fieldErrors, Loading, PageHead, RunOn, Ticket } from '../../kit/parts'
import { houseQuery, SessionContext } from '../../kit/session'
import { Standing } from '../../kit/Standing'
import { HouseTime } from '../../kit/time'
import { lengthIn, useUnit } from '../../kit/units'
import { SheetActs } from './SheetActs'
import rulingsCss from '../rulings.module.css'

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
    moreWanted: 'More evidence needed',
    recheck: 'To re-check',
    refused: 'Refused',
  }[sheet.state]
  return (
    <>
      <PageHead title={sheet.tag} sub={`${sheet.materialName}, ${size}`}>
        {inside && <Link to="/sheets">All sheets</Link>}
      </PageHead>
      <div className={`shelfpage ${rulingsCss.sheetpage}`}>
        <div>
          <p className={rulingsCss.sheetword}>
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
          {sheet.note && <p>Latest note: {sheet.note}</p>}
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
          {inside && <SheetActs sheet={sheet} />}
        </div>
        <Ticket label="Code">
          <img
            className={rulingsCss.tagcode}
            src={`/api/sheets/${sheet.tag}/code.svg`}
            alt={`QR code of ${sheet.tag}`}
          />
          <h2>{sheet.tag}</h2>
          {inside ? (
            <>
              <p>
                <a href={`/api/sheet-labels.pdf?tags=${sheet.tag}&unit=${unit}`}>Label (PDF)</a>
              </p>
              <Link
                className="btn btn-outline-primary btn-sm"
                to={
                  `/ask?material=${sheet.materialId}&tag=${sheet.tag}` +
                  `&thickness=${encodeURIComponent(`${sheet.thicknessMm} mm`)}&operations=cut`
                }
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
    mutationFn: (file: File) =>
      answer(client.POST('/api/sheets/{tag}/evidence', { params: { path: { tag: sheet.tag } }, ...fileBody(file) })),
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
      <Field id="evidence-file" label="Order page, label or data sheet: PDF, PNG or JPEG" error={errors.file}>
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
