import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import Button from 'react-bootstrap/Button'
import { Link, useNavigate, useSearchParams } from 'react-router'
import { answer, client, type Schemas } from '../kit/api'
import { Failure, Loading, PageHead, RunOn } from '../kit/parts'
import { useSession } from '../kit/session'
import courseCss from './course/course.module.css'

type Step = Schemas['LadderStep']

/** The way to a certificate: what is done, what comes next, and what it waits for. */
export function LadderPage() {
  const [params] = useSearchParams()
  const person = params.get('person') ?? undefined
  const ladder = useQuery({
    queryKey: ['live', 'ladder', person],
    queryFn: ({ signal }) => answer(client.GET('/api/training/ladder', { params: { query: { person } }, signal })),
  })
  const shown = ladder.data
  const { time } = useSession()
  return (
    <>
      <PageHead
        title={!shown || shown.mine ? 'Your way to the machines' : `${shown.name}’s way to the machines`}
        sub="Laser safety once, then each machine for itself."
      >
        <Link to={person ? `/training?person=${person}` : '/training'}>Certificates</Link>
      </PageHead>
      {ladder.isPending && <Loading what="the way" />}
      <Failure error={ladder.error} retry={() => void ladder.refetch()} />
      {shown && (
        <div className={courseCss.ladders}>
          <section>
            <RunOn title="Laser safety" after={tally(shown.safety)} />
            <ol className={courseCss.rungs}>
              {shown.safety.map((step) => (
                <Rung key={step.id} step={step}>
                  {shown.mine && <SafetyAct step={step} open={shown.openAttempt} />}
                </Rung>
              ))}
            </ol>
          </section>
          <div>
            {shown.paths.map((m) => (
              <section key={m.authority} className="mb-3" data-path={m.authority}>
                <RunOn title={m.name} after={tally(m.steps)} />
                {m.refresher && <p className="small mb-1">Your certificate lapsed: this shorter way renews it.</p>}
                {m.soonest && <p className="small mb-1">Not before {time.moment(m.soonest)}.</p>}
                <ol className={courseCss.rungs}>
                  {m.steps.map((step) => (
                    <Rung key={step.id} step={step}>
                      {shown.mine && step.kind === 'supervisedRuns' && step.state === 'open' && (
                        <Link to={`/ask?machine=${m.machineId}`}>Ask for a time</Link>
                      )}
                      {shown.mine && step.kind === 'induction' && step.state === 'open' && (
                        <Link to="/training/inductions">See the sessions</Link>
                      )}
                    </Rung>
                  ))}
                </ol>
              </section>
            ))}
          </div>
        </div>
      )}
    </>
  )
}

const tally = (steps: Step[]) => `${steps.filter((s) => s.state === 'done').length} of ${steps.length}`
const stateNames = { done: 'done', open: 'next', waits: 'waits' }

function Rung({ step, children }: { step: Step; children?: React.ReactNode }) {
  return (
    <li className={`${courseCss.rung} ${step.state}`}>
      <span className="visually-hidden">{stateNames[step.state]}: </span>
      <b>{step.title}</b>
      <span className="small">{step.text}</span>
      {children}
    </li>
  )
}

function SafetyAct({ step, open }: { step: Step; open?: string | null }) {
  const queries = useQueryClient()
  const navigate = useNavigate()
  const { time } = useSession()
  const begin = useMutation({
    mutationFn: () => answer(client.POST('/api/training/quizzes/{id}/attempts', { params: { path: { id: step.id } } })),
    onSuccess: async (begun) => {
      await queries.invalidateQueries({ queryKey: ['live', 'ladder'] })
      void navigate(`/training/quiz/${begun.id}`)
    },
  })
  if (step.kind === 'reading')
    return <Link to={`/training/read/${step.id}`}>{step.state === 'done' ? 'Read it again' : 'Read it'}</Link>
  if (open)
    return (
      <Link to={`/training/quiz/${open}`}>
        <b>Go on with your quiz</b>
      </Link>
    )
  if (step.state !== 'open') return step.from ? <span className="small quiet">{time.moment(step.from)}</span> : null
  return (
    <>
      <Button size="sm" disabled={begin.isPending} onClick={() => begin.mutate()}>
        Begin the quiz
      </Button>
      <Failure error={begin.error} />
    </>
  )
}
