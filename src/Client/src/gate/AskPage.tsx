import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import Button from 'react-bootstrap/Button'
import { Link, useLocation, useNavigate } from 'react-router'
import { answer, client, type Schemas } from '../kit/api'
import { Failure, fieldErrors, PageHead, RunOn } from '../kit/parts'
import { dayQuery, hasRole, useSession } from '../kit/session'
import { useUnit } from '../kit/units'
import { Standing, standingOf, StandingGlyph, standClass, verdictWords } from '../kit/Standing'
import { askBody, missing, useAskState, type AskState } from './askState'
import { Asked } from './Asked'
import { Booking, type Outcome } from './Booking'
import { FirstDoors, keepQuestion, useQuestionWords } from './FirstDoors'
import { PostLine, postWords } from './PostLine'
import { Sentence } from './Sentence'
import gateCss from './gate.module.css'
import sentenceCss from './sentence.module.css'

/** May this person run this sheet, this drawing, on this machine, now, and if not, what would open the way? */
export function AskPage() {
  const { me, time, now } = useSession()
  const [state, change] = useAskState()
  const body = askBody(state, me.memberId, useUnit())
  const wanting = missing(state)
  // What this question led to. The gate is not asked again under it: one's own booking would shut it.
  const [done, setDone] = useState<{ key: string; outcome: Outcome } | null>(null)
  const key = JSON.stringify(body)
  const outcome = done?.key === key ? done.outcome : null
  const asked = useQuery({
    queryKey: ['live', 'ask', body],
    queryFn: ({ signal }) => answer(client.POST('/api/gate/ask', { body, signal })),
    enabled: wanting.length === 0 && !outcome,
    placeholderData: keepPreviousData,
    retry: false,
  })
  useFirstTime(state, change)
  useEffect(() => {
    const press = (event: KeyboardEvent) => event.ctrlKey && event.key === 'Enter' && !outcome && void asked.refetch()
    document.addEventListener('keydown', press)
    return () => document.removeEventListener('keydown', press)
  }, [asked, outcome])
  const words = useQuestionWords(state)
  const search = useLocation().search
  const answered = wanting.length === 0 && asked.isSuccess && !asked.isPlaceholderData
  useEffect(() => {
    if (answered && words && !state.asked) keepQuestion(me.memberId, search, words)
  }, [answered, words, search, me.memberId, state.asked])
  const fresh = state.operations.length === 0 && !state.material && !state.machine && !state.drawing
  const errors = fieldErrors(asked.error)
  const gate = wanting.length === 0 && !asked.isError ? asked.data : undefined
  const shut = new Set(gate?.posts.filter((post) => post.standing === 'shut').map((post) => post.post))
  return (
    <>
      <PageHead title="Ask the gate" sub="Nothing is booked by asking.">
        <Link to={`/bookings/soonest${search}`}>Which machine, soonest?</Link>
      </PageHead>
      <section className={sentenceCss.askband}>
        <Sentence state={state} change={change} errors={errors} shut={shut} />
        <Verdict gate={gate} wanting={wanting} failed={asked.isError} />
      </section>
      {fresh && <FirstDoors />}
      {state.asked && (
        <div className={gateCss.askedticket}>
          <Asked state={state} />
        </div>
      )}
      {asked.isError &&
        (Object.keys(errors).length > 0 ? (
          <ul className={gateCss.fielderrors} role="alert">
            {Object.entries(errors).map(([field, texts]) => (
              <li key={field} data-field={field}>
                {texts.join(' ')}
              </li>
            ))}
          </ul>
        ) : (
          <Failure error={asked.error} retry={() => void asked.refetch()} />
        ))}
      <h2 className="visually-hidden">The line of posts</h2>
      <PostLine
        posts={gate?.posts ?? null}
        action={(reason) => <Remedy reason={reason} state={state} change={change} gate={gate} />}
      />
      {gate && (
        <div className="two asklower">
          <div>
            {gate.soonest && <Soonest way={gate.soonest} change={change} />}
            <Reasons posts={gate.posts} />
          </div>
          <Booking gate={gate} body={body} outcome={outcome} done={(to) => setDone({ key, outcome: to })} />
        </div>
      )}
      {gate && (
        <p className="small quiet mt-3">
          Asked {time.moment(now())}. Velvet Gate supports judgement: follow your local code, the maker’s manual and
          your safety officer.
        </p>
      )}
    </>
  )
}

/** A first time to ask about: the next slot today, or tomorrow's first when today is over. */
function useFirstTime(state: AskState, change: (to: Partial<AskState>) => void) {
  const { time, now } = useSession()
  // A link that only names an ask brings its own time.
  const wants = !state.start && !state.asked
  const today = useQuery({ ...dayQuery(time.iso(now())), enabled: wants })
  const tomorrow = useQuery({ ...dayQuery(today.data?.next ?? ''), enabled: wants && !!today.data })
  useEffect(() => {
    if (!wants || !today.data || !tomorrow.data) return
    const slot = [...today.data.slots.slice(0, -4), ...tomorrow.data.slots].find((s) => Date.parse(s.at) >= now())
    if (slot && !new URLSearchParams(window.location.search).has('start'))
      change({ date: time.iso(slot.at), start: slot.at })
  }, [wants, today.data, tomorrow.data, change, now, time])
}

function Verdict({ gate, wanting, failed }: { gate?: Schemas['GateResponse']; wanting: string[]; failed: boolean }) {
  const holding = gate?.posts.filter((post) => post.standing === 'shut' || post.standing === 'ask').length ?? 0
  const ifs = gate?.posts.filter((post) => post.standing === 'caution').length ?? 0
  return (
    <div className={gateCss.verdict} role="status" aria-live="polite">
      {gate ? (
        <>
          <span className={standClass(standingOf[gate.verdict])}>
            <StandingGlyph standing={standingOf[gate.verdict]} width={62} />
          </span>
          <div>
            <div className={`${gateCss.vword} ${gate.verdict}`}>{verdictWords[gate.verdict]}</div>
            <div className={gateCss.vwhy}>
              {gate.verdict === 'open' && 'Every post is OK: the usual checks at the machine.'}
              {gate.verdict === 'conditions' &&
                `${ifs} of seven posts ${ifs === 1 ? 'carries' : 'carry'} a condition to check at the machine.`}
              {gate.verdict === 'ask' &&
                (gate.mayBeLifted
                  ? 'A steward may lift this once, with a written reason.'
                  : 'Nobody’s word lifts this: do what the reason says, or change the question.')}
              {gate.verdict === 'shut' && `${holding} of seven posts hold${holding === 1 ? 's' : ''} the rope.`}
            </div>
          </div>
        </>
      ) : (
        <>
          <StandingGlyph standing="unknown" width={62} />
          <div>
            <div className={`${gateCss.vword} ${gateCss.none}`}>{failed ? 'Not asked' : 'No verdict yet'}</div>
            <div className={gateCss.vwhy}>
              {failed
                ? 'The question could not be read, or the posts did not answer.'
                : wanting.length > 0
                  ? `Still to fill in: ${wanting.join(', ')}.`
                  : 'Asking the posts. No verdict is shown until all seven have answered.'}
            </div>
          </div>
        </>
      )}
    </div>
  )
}

/** The one action that would clear a reason, where it is in this person's hands; else its words. */
function Remedy({
  reason,
  state,
  change,
  gate,
}: {
  reason: Schemas['ReasonResponse']
  state: AskState
  change: (to: Partial<AskState>) => void
  gate?: Schemas['GateResponse']
}) {
  const navigate = useNavigate()
  const { me, time } = useSession()
  if (!reason.remedy) return null
  const { action, text } = reason.remedy
  const ofItems = ['Operation', 'Thickness', 'Material', 'Sheet tag', 'Drawing', 'Run time', 'Setting']
  const open = (blank: string) => {
    const nth = reason.item && ofItems.includes(blank) ? ` ${reason.item + 1}` : ''
    document.querySelector<HTMLButtonElement>(`[data-blank="${blank}${nth}"]`)?.click()
  }
  const soonest = gate?.soonest
  const acts: Record<string, [string, () => void] | undefined> = {
    'time.other': soonest
      ? [`Take ${time.moment(soonest.start)}`, () => change({ start: soonest.start, date: time.iso(soonest.start) })]
      : ['Choose another time', () => open('Start')],
    'time.longer': gate && [`Take ${gate.length.slotMinutes} min`, () => change({ minutes: null })],
    'sheet.clear': ['Give a sheet’s tag', () => open('Sheet tag')],
    'sheet.tag': ['Give a sheet’s tag', () => open('Sheet tag')],
    'sheet.other': ['Give another tag', () => open('Sheet tag')],
    'sheet.thinner': ['Change the thickness', () => open('Thickness')],
    'material.other': ['Choose another material', () => open('Material')],
    'machine.other': ['Choose another machine', () => open('Machine')],
    'ask.operations': ['Change what to do', () => open('Operation')],
    'settings.other': ['Choose another setting', () => open('Setting')],
    'ask.run': ['Say how long it runs', () => open('Run time')],
    'training.supervisor': state.machine ? ['Name a supervisor', () => open('Supervisor')] : undefined,
  }
  const act = acts[action]
  const way = wayOf(reason.remedy, me, state)
  if (!act && way)
    return (
      <Button size="sm" onClick={() => void navigate(way.to)} title={text}>
        {way.words}
      </Button>
    )
  if (!act) return <p className="small quiet mb-0">{text}</p>
  return (
    <Button size="sm" onClick={act[1]} title={text}>
      {act[0]}
    </Button>
  )
}

/** The page on which a remedy is carried out or seen; none where it leads nowhere for the one who looks. */
function wayOf(remedy: Schemas['RemedyResponse'], me: Schemas['MeResponse'], state: AskState) {
  // What only a keeper does lies on a keeper's page.
  if (remedy.by === 'keeper' && !hasRole(me, 'keeper')) return undefined
  if (!remedy.page || !remedy.pageWords || (remedy.page.includes('{drawing}') && !state.drawing)) return undefined
  const to = remedy.page
    .replace('{person}', encodeURIComponent(state.member ?? me.memberId))
    .replace('{drawing}', encodeURIComponent(state.drawing ?? ''))
  return { to, words: remedy.pageWords }
}

function Soonest({ way, change }: { way: Schemas['SoonestResponse']; change: (to: Partial<AskState>) => void }) {
  const { time } = useSession()
  return (
    <section className="mb-3">
      <RunOn title="Soonest way to open" after={`${way.steps.length} ${way.steps.length === 1 ? 'step' : 'steps'}`} />
      <ol className={gateCss.path}>
        {way.steps.map((step, i) => (
          <li key={i} className={i === way.steps.length - 1 ? gateCss.last : ''}>
            <div className="when">{step.at ? time.moment(step.at) : i === 0 ? 'first' : 'then'}</div>
            <h3>{step.text}</h3>
            {step.opens ? (
              <div className={gateCss.opens}>
                opens <b>{postWords[step.opens]}</b>
              </div>
            ) : (
              <Standing standing={standingOf[way.verdict]} word={verdictWords[way.verdict]} />
            )}
          </li>
        ))}
      </ol>
      <Button
        variant="outline-primary"
        size="sm"
        className="mt-2"
        onClick={() => change({ start: way.start, date: time.iso(way.start) })}
      >
        Ask about {time.moment(way.start)}
      </Button>
    </section>
  )
}

function Reasons({ posts }: { posts: Schemas['PostResponse'][] }) {
  const all = posts.flatMap((post) => post.reasons.map((reason) => ({ post: post.post, reason })))
  const several = all.some(({ reason }) => (reason.item ?? 0) > 0)
  return (
    <section>
      <RunOn title="Every reason" after={all.length} />
      {all.length === 0 ? (
        <p className="quiet">No post has anything against it.</p>
      ) : (
        <table className={`plain ${gateCss.reasons}`}>
          <thead>
            <tr>
              <th>Post</th>
              <th>Verdict</th>
              <th>Reason and rule</th>
              <th>What opens it</th>
            </tr>
          </thead>
          <tbody>
            {all.map(({ post, reason }, i) => (
              <tr key={i} data-code={reason.code}>
                <td>
                  <b>{postWords[post]}</b>
                  {several && reason.item != null && <span className={gateCss.source}>sheet {reason.item + 1}</span>}
                </td>
                <td>
                  <Standing standing={reason.standing} width={18} />
                </td>
                <td>
                  {reason.text}
                  <span className={gateCss.source}>
                    {reason.code}, {reason.source}
                  </span>
                  {reason.settings.map((s) => (
                    <span className={gateCss.source} key={s.key}>
                      House rule: <Link to={`/house/rules#rule-${s.key}`}>{s.label}</Link>
                      {s.value && `, ${s.value}${s.unit ? ` ${s.unit}` : ''}`}
                    </span>
                  ))}
                </td>
                <td>
                  {reason.remedy?.text ??
                    (reason.standing === 'shut' ? 'Nothing: it stays shut.' : 'Check it at the machine.')}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </section>
  )
}
