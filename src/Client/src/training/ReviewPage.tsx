import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import { Link } from 'react-router'
import { Act, useAction } from '../kit/Act'
import { answer, client } from '../kit/api'
import { Empty, Failure, fieldErrors, Loading, PageHead, RunOn, SelectField, TextField } from '../kit/parts'
import { peopleQuery } from '../kit/session'
import { useDraft } from '../kit/useDraft'
import { HoldActs } from './HoldActs'
import { holdsQuery } from './trainingQueries'
import trainingCss from './training.module.css'

/** Everything one trainer signed in a time, looked at again in one action; and what is held now. */
export function ReviewPage() {
  const holds = useQuery(holdsQuery(''))
  const people = useQuery(peopleQuery)
  const signers = (people.data ?? []).filter((p) => p.roles?.some((r) => r.startsWith('trainer')))
  const [signer, setSigner] = useState('')
  const { draft, of } = useDraft({ from: '', to: '', reason: '' })
  const body = { signer: signer || signers[0]?.id || '', ...draft }
  const look = useAction(() =>
    answer(client.POST('/api/certificate-holds/review', { body: { ...body, dryRun: true } })),
  )
  const act = useAction(
    () => answer(client.POST('/api/certificate-holds/review', { body: { ...body, dryRun: false } })),
    () => look.reset(),
  )
  const errors = { ...fieldErrors(look.error), ...fieldErrors(act.error) }
  return (
    <>
      <PageHead
        title="Review"
        sub="Look again at what a trainer signed off in some days. Until that is done, the gate asks for a steward."
      >
        <Link to="/training">Certificates</Link>
      </PageHead>
      <div className={trainingCss.reviewpage}>
        <section>
          <RunOn title="By signer and days" />
          <Act
            act={act}
            button="Put them under review"
            fields={['signer', 'from', 'to', 'reason']}
            done={act.data && `${act.data.items.length} under review. Their holders were told.`}
          >
            <SelectField
              id="signer"
              label="Signed by"
              value={body.signer}
              put={setSigner}
              options={signers.map((p) => [p.id, p.name] as const)}
              error={errors.signer}
            />
            <TextField id="review-from" label="From" type="date" {...of('from', errors)} />
            <TextField id="review-to" label="To" type="date" {...of('to', errors)} />
            <TextField
              id="review-reason"
              label="Why, for the holders and the stewards"
              rows={2}
              {...of('reason', errors)}
            />
            {look.data && (
              <div className="proposal" role="status">
                {look.data.items.length === 0 ? (
                  <p className="mb-0">Nobody holds anything that was signed off in these days.</p>
                ) : (
                  <ul className="plainlist mb-0">
                    {look.data.items.map((i) => (
                      <li key={`${i.personId} ${i.authority}`}>
                        {i.name}: {i.authorityName}
                      </li>
                    ))}
                  </ul>
                )}
              </div>
            )}
            <Button size="sm" variant="outline-primary" disabled={look.isPending} onClick={() => look.mutate()}>
              See whose they are
            </Button>{' '}
          </Act>
        </section>
        <section>
          <RunOn title="Held now" after={holds.data?.length} />
          {holds.isPending && <Loading what="what is held" />}
          <Failure error={holds.error} retry={() => void holds.refetch()} />
          {holds.data?.length === 0 && <Empty title="Nothing is held">Every certificate counts as it stands.</Empty>}
          {holds.data?.map((h) => (
            <div key={h.id}>
              <Link to={`/training?person=${h.personId}`}>{h.name}</Link>
              <HoldActs hold={h} steward />
            </div>
          ))}
        </section>
      </div>
    </>
  )
}
