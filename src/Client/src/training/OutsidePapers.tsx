import { useQuery } from '@tanstack/react-query'
import { Act, Fold, useAction } from '../kit/Act'
import { answer, client, type Schemas } from '../kit/api'
import { fieldErrors, TextField } from '../kit/parts'
import { useSession } from '../kit/session'
import { useDraft } from '../kit/useDraft'
import { outsideQuery, pathsQuery } from './trainingQueries'

const none = { title: '', issuer: '', from: '', to: '', evidence: '' }

/** Certificates of other houses and institutions. */
export function OutsidePapers({ person, steward }: { person: Schemas['PersonResponse']; steward: boolean }) {
  const { time } = useSession()
  const papers = useQuery(outsideQuery(person.id))
  const paths = useQuery(pathsQuery)
  const wanted = [
    ...new Set((paths.data?.items ?? []).flatMap((p) => p.steps.filter((s) => s.kind === 'outside').map((s) => s.id))),
  ]
  const { draft, clear, of } = useDraft(none)
  const record = useAction(
    () => answer(client.POST('/api/people/{id}/outside', { params: { path: { id: person.id } }, body: draft })),
    clear,
  )
  const errors = fieldErrors(record.error)
  return (
    <>
      {!!papers.data?.length && (
        <>
          <h3>From elsewhere</h3>
          <ul className="plainlist">
            {papers.data.map((p) => (
              <li key={p.id}>
                <b>{p.title}</b>, {p.issuer}, {time.date(Date.parse(p.since))}
                {p.until ? ` to ${time.date(Date.parse(p.until) - 1)}` : ', no last day'}
                {p.evidence && <span className="small quiet d-block">{p.evidence}</span>}
              </li>
            ))}
          </ul>
        </>
      )}
      {steward && (
        <Fold title="Record a certificate from elsewhere">
          <Act
            act={record}
            button="Record it"
            fields={['title', 'issuer', 'from', 'to', 'evidence', 'personId']}
            done={record.data && 'Recorded.'}
          >
            <TextField
              id="outside-title"
              label="What it is called"
              list="outside-titles"
              {...of('title', errors)}
              error={errors.title ?? errors.personId}
            />
            <datalist id="outside-titles">
              {wanted.map((w) => (
                <option key={w} value={w} />
              ))}
            </datalist>
            <TextField id="outside-issuer" label="Who issued it" {...of('issuer', errors)} />
            <TextField id="outside-from" label="Day on it" type="date" {...of('from', errors)} />
            <TextField id="outside-to" label="Last day, if it names one" type="date" {...of('to', errors)} />
            <TextField
              id="outside-evidence"
              label="What you saw, its number, where a copy lies"
              rows={2}
              {...of('evidence', errors)}
            />
          </Act>
        </Fold>
      )}
    </>
  )
}
