import { useRef, useState } from 'react'
import Button from 'react-bootstrap/Button'
import { stream, type Schemas } from '../kit/api'
import { Failure, RunOn } from '../kit/parts'
import { useMachines, useSession } from '../kit/session'
import { events } from './steps'
import css from './reports.module.css'

type Step = Schemas['WhatIfStep']
type Response = Schemas['WhatIfResponse']

/** Rules that are not in force yet, tried on the eight weeks before. */
export function WhatIf({ rules }: { rules: unknown }) {
  const [step, setStep] = useState<Step | null>(null)
  const [found, setFound] = useState<Response | null>(null)
  const [error, setError] = useState<unknown>(null)
  const running = useRef<AbortController | null>(null)
  const run = async () => {
    running.current?.abort()
    const off = new AbortController()
    running.current = off
    setFound(null)
    setError(null)
    setStep({ done: 0, of: 0, response: null })
    try {
      for await (const next of events<Step>(await stream('/api/use/what-if/steps', { rules }, off.signal))) {
        setStep(next)
        if (next.response) setFound(next.response)
      }
    } catch (problem) {
      if (!off.signal.aborted) setError(problem)
    } finally {
      if (running.current === off) setStep(null)
    }
  }
  return (
    <section className="mt-3" aria-label="What it would have changed">
      {step ? (
        <div className={css.progress} role="status">
          <progress max={step.of || 1} value={step.done} aria-label="Played" />
          <span className="quiet">{step.of > 0 ? `${Math.round((100 * step.done) / step.of)} %` : 'Reading …'}</span>
          <Button size="sm" variant="outline-primary" onClick={() => running.current?.abort()}>
            Stop
          </Button>
        </div>
      ) : (
        <Button variant="outline-primary" onClick={() => void run()}>
          Try it on the last eight weeks
        </Button>
      )}
      <Failure error={error} />
      {found && <Found found={found} />}
    </section>
  )
}

function Found({ found }: { found: Response }) {
  const r = found.result
  const people = (n: number) => (n === 1 ? '1 person' : `${n} people`)
  const even = (gini: number | null | undefined) => (gini == null ? '' : gini.toFixed(2))
  return (
    <div className="ruledone" role="status">
      <p>
        <b>
          {r.refused.length === 0 && r.served.length === 0
            ? 'Nobody would have noticed.'
            : `${people(r.peopleRefused)} would have been refused what they had, ${r.peopleServed} served what they did not get.`}
        </b>{' '}
        Played: {r.booked} bookings and {r.tries} refused tries, asked from {found.from} to {found.to}
        {r.other > 0 && `; ${r.other} of them refused for what these rules do not decide`}.
      </p>
      <table className={css.bars}>
        <thead>
          <tr>
            <th />
            <th scope="col">As it is</th>
            <th scope="col">Changed</th>
          </tr>
        </thead>
        <tbody>
          <tr>
            <th scope="row">Served</th>
            <td>{r.now.served}</td>
            <td>{r.changed.served}</td>
          </tr>
          <tr>
            <th scope="row">Refused</th>
            <td>{r.now.refused}</td>
            <td>{r.changed.refused}</td>
          </tr>
          <tr>
            <th scope="row">Hours</th>
            <td>{r.now.hours.toFixed(1)}</td>
            <td>{r.changed.hours.toFixed(1)}</td>
          </tr>
          <tr>
            <th scope="row">How even (Gini)</th>
            <td>{even(r.now.gini)}</td>
            <td>{even(r.changed.gini)}</td>
          </tr>
        </tbody>
      </table>
      {r.reasons.length > 0 && (
        <p className="mt-2">
          Refused by:{' '}
          {r.reasons.map((x, i) => (
            <span key={i}>
              {i > 0 && '; '}
              {x.says} ({x.count})
            </span>
          ))}
          .
        </p>
      )}
      <Lines title="Would have been refused" lines={r.refused} />
      <Lines title="Would have been served; refused for" lines={r.served} />
      <RunOn title="What this cannot know" />
      <ul className="small quiet">
        {r.cannotKnow.map((c, i) => (
          <li key={i}>{c}</li>
        ))}
      </ul>
    </div>
  )
}

function Lines({ title, lines }: { title: string; lines: Schemas['WhatIfLine'][] }) {
  const { time } = useSession()
  const machines = useMachines().data ?? []
  if (lines.length === 0) return null
  return (
    <details className="fold">
      <summary>
        {title} ({lines.length})
      </summary>
      <ul className="plainlist small">
        {lines.map((l, i) => (
          <li key={i}>
            {machines.find((m) => m.id === l.machineId)?.name ?? l.machineId}, {time.moment(l.start)}, {l.minutes} min.{' '}
            <span className="quiet">{l.why}</span>
          </li>
        ))}
      </ul>
    </details>
  )
}
