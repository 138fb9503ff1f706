import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import { useNavigate, useSearchParams } from 'react-router'
import { answer, client, type Schemas } from '../kit/api'
import { BookingBar, PartList } from '../kit/BookingBar'
import { Empty, Failure, fieldErrors, Loading, PageHead, RunOn } from '../kit/parts'
import { dayQuery, useMachines, useSession } from '../kit/session'
import { Standing, standingOf, verdictWords } from '../kit/Standing'
import { lengthIn, useUnit } from '../kit/units'
import { jobBody, missingOfJob, useAskState } from './askState'
import { Blank, Write } from './Blank'
import { DrawingBlank } from './MachineBlanks'
import { RoundBlank } from './RoundBlank'
import { Operations, Sheet } from './SheetBlanks'
import { WaitForTime } from './WaitForTime'
import { Person } from './WhoBlanks'
import sentenceCss from './sentence.module.css'
import css from './soonest.module.css'

type Found = Schemas['MachineTimesResponse']

const suggestions = ['after 17:00', 'not at weekends', 'mornings', 'this week', 'tomorrow']

/** Which machine, soonest? One job on every machine of the house: when it could run there, or why not. */
export function SoonestPage() {
  const { me, now, time } = useSession()
  const unit = useUnit()
  const [state, change] = useAskState()
  const [params, setParams] = useSearchParams()
  const words = params.get('when') ?? ''
  const say = (text: string) =>
    setParams(
      (before) => {
        const after = new URLSearchParams(before)
        if (text) after.set('when', text)
        else after.delete('when')
        return after
      },
      { replace: true },
    )
  const job = jobBody(state, me.memberId, unit)
  const wanting = missingOfJob(state)
  const asked = useQuery({
    queryKey: ['live', 'soonest', job, words],
    queryFn: ({ signal }) =>
      answer(client.POST('/api/machines/soonest', { body: { ...job, words: words || null }, signal })),
    enabled: wanting.length === 0,
    placeholderData: keepPreviousData,
    retry: false,
  })
  const errors = fieldErrors(asked.error)
  const props = { state, change, errors, shut: new Set<string>() } as Parameters<typeof Operations>[0]
  const found = wanting.length === 0 && !asked.isError ? asked.data : undefined
  const [chosen, setChosen] = useState<string | null>(null)
  const shown = found?.machines.find((m) => m.machineId === chosen) ?? found?.machines[0]
  const day = found?.machines[0]?.choices[0]?.start ?? new Date(now()).toISOString()
  return (
    <>
      <PageHead title="Which machine, soonest?" sub="Nothing is booked by asking." />
      <section className={sentenceCss.askband} style={{ gridTemplateColumns: '1fr' }}>
        <p className={sentenceCss.sentence}>
          When may <Person {...props} /> <Operations {...props} /> <Sheet {...props} /> with <DrawingBlank {...props} />
          <RoundBlank {...props} />,{' '}
          <Blank name="When" text={words || null} empty="at any time" error={errors.words}>
            {(close) => (
              <Write
                label="When can you come?"
                value={words}
                help={`In words, with commas between: ${suggestions.join('; ')}; before 3 December.`}
                onWrite={(text) => {
                  say(text.trim())
                  close()
                }}
              />
            )}
          </Blank>
          ?
        </p>
      </section>
      {found && (
        <p className="small quiet mt-2">
          <b>Understood as</b> {found.understood}.{' '}
          {suggestions
            .filter((s) => !words.includes(s))
            .slice(0, 3)
            .map((s) => (
              <button
                key={s}
                type="button"
                className="quietlink me-3"
                onClick={() => say(words ? `${words}, ${s}` : s)}
              >
                {s}
              </button>
            ))}
          {words && (
            <button type="button" className="quietlink" onClick={() => say('')}>
              at any time
            </button>
          )}
        </p>
      )}
      {wanting.length > 0 && (
        <p role="status" className="quiet">
          Still to fill in: {wanting.join(', ')}.
        </p>
      )}
      {asked.isError &&
        (Object.keys(errors).length > 0 ? (
          <p role="alert" className="fieldproblem">
            {Object.values(errors).flat().join(' ')}
          </p>
        ) : (
          <Failure error={asked.error} retry={() => void asked.refetch()} />
        ))}
      {wanting.length === 0 && asked.isPending && <Loading what="every machine" />}
      {found && found.machines.length === 0 && <Empty title="The house has no machine yet">A keeper adds one.</Empty>}
      {found && found.machines.length > 0 && (
        <section aria-label="Machines, soonest finish first">
          <Head day={day} />
          {found.machines.map((machine, i) => (
            <MachineRow
              key={machine.machineId}
              machine={machine}
              first={i === 0 && machine.choices.length > 0}
              day={day}
              open={shown?.machineId === machine.machineId}
              show={() => setChosen(machine.machineId)}
            />
          ))}
        </section>
      )}
      {shown && found && (
        <div className="two mt-3">
          <section>
            <RunOn title={`Why ${shown.minutes} minutes on ${shown.name}`} after={run(shown)} />
            <PartList length={shown.length} minutes={shown.minutes} />
          </section>
          <section>
            <Take machine={shown} />
            <WaitForTime job={job} machines={found.machines} until={time.iso(now() + 14 * 86_400_000)} />
          </section>
        </div>
      )}
    </>
  )
}

const run = (m: Found) => (m.runMinutes == null ? 'how long it runs is not known' : `runs ${m.runMinutes} min`)

/** A choice leads to the gate with everything filled in: there it is booked, its conditions read. */
function Take({ machine }: { machine: Found }) {
  const { time } = useSession()
  const navigate = useNavigate()
  const [params] = useSearchParams()
  const ask = (start: string) => {
    const to = new URLSearchParams(params)
    to.delete('when')
    to.set('machine', machine.machineId)
    to.set('start', start)
    to.set('date', time.iso(start))
    to.delete('minutes')
    void navigate(`/ask?${to}`)
  }
  if (machine.choices.length === 0) return null
  return (
    <>
      <h2>On {machine.name}</h2>
      <div className="d-flex flex-wrap gap-2 mt-2">
        {machine.choices.map((choice, i) => (
          <Button
            key={choice.start}
            variant={i === 0 ? 'primary' : 'outline-primary'}
            onClick={() => ask(choice.start)}
            data-choice={choice.start}
          >
            {time.moment(choice.start)} to {time.clock(choice.end)}
          </Button>
        ))}
      </div>
      <p className="small quiet mt-2">The gate is asked for the time you press, and you book it there.</p>
    </>
  )
}

function useDay(day: string) {
  const { time } = useSession()
  return useQuery(dayQuery(time.iso(day)))
}

function Head({ day }: { day: string }) {
  const { time } = useSession()
  const hours = useDay(day).data
  return (
    <div className={`${css.row} ${css.head}`}>
      <div>Soonest finish first; outlined, this job</div>
      <div className={css.lane} aria-hidden="true">
        {hours?.opens &&
          hours.slots
            .filter((s) => time.clock(s.at).endsWith(':00'))
            .filter((_, i, all) => all.length < 9 || i % 2 === 0)
            .map((s) => (
              <span key={s.at} style={{ left: `${100 * at(s.at, hours)}%` }}>
                {time.clock(s.at).slice(0, 2)}
              </span>
            ))}
      </div>
      <div>to book</div>
      <div>finish</div>
      <div>only if, or why not</div>
    </div>
  )
}

const at = (moment: string, day: { opens?: string | null; closes?: string | null }) => {
  const [from, to] = [Date.parse(day.opens!), Date.parse(day.closes!)]
  return Math.min(1, Math.max(0, (Date.parse(moment) - from) / (to - from)))
}

function MachineRow({
  machine,
  first,
  day,
  open,
  show,
}: {
  machine: Found
  first: boolean
  day: string
  open: boolean
  show: () => void
}) {
  const { time } = useSession()
  const unit = useUnit()
  const spec = useMachines().data?.find((m) => m.id === machine.machineId)
  const choice = machine.choices[0]
  return (
    <div className={`${css.row} ${first ? css.first : ''}`} data-machine={machine.machineId}>
      <div>
        <h2>
          <button type="button" className={css.name} aria-pressed={open} onClick={show}>
            {machine.name}
          </button>
        </h2>
        <p className={css.spec}>
          {machine.powerW} W {machine.kind === 'co2' ? 'CO₂' : machine.kind}
          {spec && `, ${lengthIn(unit, spec.bedWidthMm)} × ${lengthIn(unit, spec.bedHeightMm)}`}
        </p>
        <Standing standing={standingOf[machine.verdict]} word={verdictWords[machine.verdict]} width={18} />
      </div>
      <Lane machine={machine} day={day} />
      <div className={css.figure}>
        <b>{machine.minutes}</b> min<span>{run(machine)}</span>
      </div>
      <div className={css.figure}>
        {choice ? (
          <>
            <b>{time.clock(choice.end)}</b>
            <span>{time.day(choice.end)}</span>
          </>
        ) : (
          <span>no time</span>
        )}
      </div>
      <div className={css.why}>
        <ul>
          {machine.reasons.slice(0, 4).map((r, i) => (
            <li key={i}>{r.text}</li>
          ))}
          {machine.opens.map((o) => (
            <li key={o.title}>
              Still to learn: {o.title}
              {o.from && `, ${time.moment(o.from)}`}
            </li>
          ))}
        </ul>
        {machine.choices.length > 1 && (
          <p>
            Then{' '}
            {machine.choices
              .slice(1)
              .map((c) => `${time.moment(c.start)} to ${time.clock(c.end)}`)
              .join(', or ')}
          </p>
        )}
      </div>
    </div>
  )
}

/** The day of the soonest time: what is booked, and where this would lie. */
function Lane({ machine, day }: { machine: Found; day: string }) {
  const { time } = useSession()
  const hours = useDay(day).data
  const bookings = useQuery({
    queryKey: ['live', 'bookings', 'day', hours?.opens, hours?.closes],
    queryFn: async ({ signal }) =>
      (
        await answer(
          client.GET('/api/bookings', { params: { query: { from: hours!.opens!, to: hours!.closes! } }, signal }),
        )
      ).items,
    enabled: !!hours?.opens,
  })
  if (!hours?.opens || !hours.closes) return <div className={css.lane} />
  const box = (start: string, end: string) => ({
    left: `${100 * at(start, hours)}%`,
    width: `${100 * (at(end, hours) - at(start, hours))}%`,
  })
  const choice = machine.choices.find((c) => time.iso(c.start) === time.iso(day))
  return (
    <ol className={css.lane} aria-label={`${machine.name} on ${time.day(day)}`}>
      {bookings.data
        ?.filter((b) => b.machineId === machine.machineId)
        .map((b) => (
          <li key={b.id} style={box(b.start, b.end)}>
            <BookingBar parts={b.parts} />
            <span className="visually-hidden">
              {b.name}, {time.clock(b.start)} to {time.clock(b.end)}
            </span>
          </li>
        ))}
      {choice && (
        <li className={css.here} style={box(choice.start, choice.end)}>
          <BookingBar parts={machine.length.parts} />
          <span className="visually-hidden">
            Free for this job, {time.clock(choice.start)} to {time.clock(choice.end)}
          </span>
        </li>
      )}
    </ol>
  )
}
