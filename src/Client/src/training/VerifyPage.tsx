import './training.css'
import { useQuery } from '@tanstack/react-query'
import { useParams } from 'react-router'
import { answer, client, type Schemas } from '../shared/api'
import { Failure, Loading } from '../shared/parts'
import { Standing, type StandingWord } from '../shared/Standing'

const states: Record<Schemas['CertificateState'], [StandingWord, string]> = {
  valid: ['clear', 'Counts'],
  underReview: ['ask', 'Under review: ask a steward'],
  suspended: ['shut', 'Suspended'],
  idle: ['shut', 'Out of practice: one supervised run first'],
  ended: ['shut', 'Has ended'],
}

/** What the code on a certificate leads to: what it opens and whether it counts, and no name. */
export function VerifyPage() {
  const { id = '' } = useParams()
  const certificate = useQuery({
    queryKey: ['verify', id],
    queryFn: ({ signal }) => answer(client.GET('/api/verify/{id}', { params: { path: { id } }, signal })),
    retry: 1,
  })
  const shown = certificate.data
  const day = (text: string) =>
    new Date(`${text}T12:00:00Z`).toLocaleDateString('en-GB', { day: 'numeric', month: 'long', year: 'numeric' })
  return (
    <main className="publiclist verify">
      {certificate.isPending && <Loading what="the certificate" />}
      {certificate.isError && (
        <>
          <h1>Not a certificate of this house</h1>
          <p>Nobody runs a laser on this paper. Ask a steward.</p>
          <Failure error={certificate.error} retry={() => void certificate.refetch()} />
        </>
      )}
      {shown && (
        <>
          <header>
            <h1>{shown.scope}</h1>
            <span>{shown.house}</span>
          </header>
          <p className="verifystate">
            <Standing standing={states[shown.state][0]} word={states[shown.state][1]} width={34} />
          </p>
          {shown.lastDay && <p>Last day: {day(shown.lastDay)}.</p>}
          <p>
            It opens this and nothing else. Whose it is stands on the paper: let them show who they are. Before every
            run the gate is asked as well.
          </p>
          <p className="small">
            Looked up {new Date(shown.checkedAt).toLocaleString('en-GB', { dateStyle: 'long', timeStyle: 'short' })}.
          </p>
        </>
      )}
    </main>
  )
}
