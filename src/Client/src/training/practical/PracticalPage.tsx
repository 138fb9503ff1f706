import { useQuery } from '@tanstack/react-query'
import { useState, type KeyboardEvent } from 'react'
import Button from 'react-bootstrap/Button'
import { Link, useParams } from 'react-router'
import { Act, Fold, useAction } from '../../kit/Act'
import { answer, client, type Schemas } from '../../kit/api'
import { Failure, fieldErrors, Loading, PageHead, TextField } from '../../kit/parts'
import { useSession } from '../../kit/session'
import { PracticalStep } from './PracticalStep'
import { usePracticalMarks } from './usePracticalMarks'
import practicalCss from './practical.module.css'

type Practical = Schemas['PracticalResponse']

/** The practical: a trainer watches, marks each step, and both agree to what the rule says. */
export function PracticalPage() {
  const { id = '' } = useParams()
  const practical = useQuery({
    queryKey: ['live', 'practical', id],
    queryFn: ({ signal }) => answer(client.GET('/api/practicals/{id}', { params: { path: { id } }, signal })),
    // Another window, or the person watched, may be on it too.
    refetchInterval: 5000,
  })
  if (practical.data) return <Sheet key={id} practical={practical.data} />
  return (
    <>
      <PageHead title="Practical" />
      {practical.isPending && <Loading what="the form" />}
      <Failure error={practical.error} retry={() => void practical.refetch()} />
    </>
  )
}

const outcomes: Record<string, string> = {
  signed: 'Signed off',
  repeat: 'To be repeated',
  notSigned: 'Not signed',
  dropped: 'Left without a verdict',
}

function Sheet({ practical }: { practical: Practical }) {
  const { time, now } = useSession()
  const { unsent, mark, error } = usePracticalMarks(practical.id, now)
  const latest = new Map(practical.marks.map((m) => [m.stepId, { ...m, waiting: false }]))
  for (const m of unsent) latest.set(m.stepId, { ...m, note: m.note ?? null, by: '', waiting: true })
  const next = (event: KeyboardEvent<HTMLOListElement>) => {
    if (event.key !== 'ArrowDown' && event.key !== 'ArrowUp') return
    const steps = [...event.currentTarget.querySelectorAll<HTMLElement>(`.${practicalCss.pstep}`)]
    const at = steps.findIndex((s) => s.contains(document.activeElement))
    const to = steps[at + (event.key === 'ArrowDown' ? 1 : -1)]
    if (at < 0 || !to || document.activeElement instanceof HTMLTextAreaElement) return
    event.preventDefault()
    to.querySelector<HTMLElement>('button')?.focus()
  }
  return (
    <>
      <PageHead title={practical.sheet.title} sub={`${practical.person}, for ${practical.authorityName}`}>
        <a href={`/api/practicals/${practical.id}/sheet.pdf`}>Print it</a>
        <Link to={`/training?person=${practical.personId}`}>{practical.person}</Link>
      </PageHead>
      <p className="mb-2">
        Started {time.moment(practical.started)} by {practical.trainer}. Steps in bold are critical: missing one ends
        it.
      </p>
      {unsent.length > 0 && (
        <p role="status" className={practicalCss.unsent}>
          {unsent.length === 1 ? 'One mark waits' : `${unsent.length} marks wait`} for the connection. Go on: they are
          kept on this device.
        </p>
      )}
      {unsent.length === 0 && <Failure error={error} />}
      <ol className={practicalCss.psteps} onKeyDown={next}>
        {practical.sheet.steps.map((step, i) => (
          <PracticalStep
            key={step.id}
            number={i + 1}
            step={step}
            seen={latest.get(step.id)}
            mark={practical.mayMark ? (word, note) => mark(step.id, word, note) : undefined}
          />
        ))}
      </ol>
      <Verdict practical={practical} waiting={unsent.length > 0} />
    </>
  )
}

function Verdict({ practical, waiting }: { practical: Practical; waiting: boolean }) {
  const { me, time } = useSession()
  const agree = useAction(() =>
    answer(
      client.POST('/api/practicals/{id}/agree', {
        params: { path: { id: practical.id } },
        body: { marks: practical.marks.length },
      }),
    ),
  )
  const { verdict } = practical
  const trainer = practical.trainerId === me.memberId
  const agreed = trainer ? practical.trainerAgreedAt : practical.memberAgreedAt
  return (
    <section className={`${practicalCss.pverdict} ${verdict.outcome}`} aria-label="Verdict">
      <h2>
        {practical.outcome
          ? outcomes[practical.outcome]
          : { open: 'Not finished', signed: 'May be signed', repeat: 'To be repeated', notSigned: 'Not signed' }[
              verdict.outcome
            ]}
      </h2>
      <p>{verdict.why}</p>
      <p className="small">
        {practical.trainer}:{' '}
        {practical.trainerAgreedAt ? `agreed ${time.moment(practical.trainerAgreedAt)}` : 'has not agreed'}
        <br />
        {practical.person}:{' '}
        {practical.memberAgreedAt ? `agreed ${time.moment(practical.memberAgreedAt)}` : 'has not agreed'}
      </p>
      {!practical.ended && verdict.outcome !== 'open' && (trainer || practical.mine) && !agreed && (
        <Button disabled={agree.isPending || waiting} onClick={() => agree.mutate()}>
          {trainer ? 'I saw this, and agree' : 'That is how it was: I agree'}
        </Button>
      )}
      {!practical.ended && agreed && (
        <p className="mb-0">
          <b>Waits for {trainer ? practical.person : practical.trainer}</b>, on their own sign-in.
        </p>
      )}
      <Failure error={agree.error} />
      {practical.mayMark && <DropIt id={practical.id} />}
    </section>
  )
}

function DropIt({ id }: { id: string }) {
  const [reason, setReason] = useState('')
  const drop = useAction(() =>
    answer(client.POST('/api/practicals/{id}/drop', { params: { path: { id } }, body: { reason } })),
  )
  return (
    <Fold title="Leave it without a verdict">
      <Act act={drop} button="Leave it" danger fields={['reason']}>
        <TextField
          id="drop-reason"
          label="Why"
          rows={2}
          value={reason}
          put={setReason}
          error={fieldErrors(drop.error).reason}
        />
      </Act>
    </Fold>
  )
}
