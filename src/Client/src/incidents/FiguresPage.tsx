import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link } from 'react-router'
import type { Schemas } from '../kit/api'
import { Failure, fieldErrors, Loading, PageHead, RunOn, SelectField, TextField } from '../kit/parts'
import { useMachines } from '../kit/session'
import { MonthBars } from './MonthBars'
import { RateLine } from './RateLine'
import { choicesQuery, figuresQuery, type Asked } from './incidentQueries'
import { minutesWords } from './words'
import css from './incidents.module.css'

/** How often, with exact limits, and whether it is more than chance. */
export function FiguresPage() {
  const machines = useMachines()
  const causes = useQuery(choicesQuery).data?.causes ?? []
  const [asked, setAsked] = useState<Asked>({})
  const figures = useQuery({ ...figuresQuery(asked), placeholderData: (before) => before })
  const put = (field: keyof Asked) => (value: string) => setAsked({ ...asked, [field]: value || undefined })
  const errors = fieldErrors(figures.error)
  return (
    <>
      <PageHead title="How often" sub="Incidents and near misses for each 100 laser hours">
        <Link to="/incidents">Incidents</Link>
        <a href="/api/incidents-file?format=pdf">Register (PDF)</a>
      </PageHead>
      <div className={css.asked}>
        <TextField
          id="figures-from"
          label="From"
          type="date"
          value={asked.from ?? ''}
          put={put('from')}
          error={errors.from}
        />
        <TextField id="figures-to" label="To" type="date" value={asked.to ?? ''} put={put('to')} error={errors.to} />
        <SelectField
          id="figures-machine"
          label="Machine"
          value={asked.machineId ?? ''}
          put={put('machineId')}
          options={[['', 'All, and the room'], ...(machines.data ?? []).map((m) => [m.id, m.name] as const)]}
        />
        <SelectField
          id="figures-cause"
          label="Cause of the incidents"
          value={asked.cause ?? ''}
          put={put('cause')}
          options={[['', 'Any'], ...causes.map((c) => [c.code, c.title] as const)]}
          error={errors.cause}
        />
      </div>
      {figures.isPending && <Loading what="the figures" />}
      {Object.keys(errors).length === 0 && <Failure error={figures.error} retry={() => void figures.refetch()} />}
      {figures.data && <Figures figures={figures.data} />}
    </>
  )
}

function Figures({ figures: f }: { figures: Schemas['FiguresResponse'] }) {
  const most = Math.max(1, f.rates.incidents.high ?? 0, f.rates.nearMisses.high ?? 0)
  return (
    <div className={css.columns}>
      <div>
        <RunOn title="Rates" after={`${f.rates.from} to ${f.rates.to}`} />
        <RateLine name="Incidents" rate={f.rates.incidents} most={most} />
        <RateLine name="Near misses" rate={f.rates.nearMisses} most={most} />
        <p className={css.small}>
          The line shows every rate that fits what was counted, at 95 %. {f.rates.hoursFrom} {f.rates.caution}
        </p>
        <section className="mt-4">
          <RunOn title="Held against the time before" after={`${f.beforeFrom} to ${f.beforeTo}`} />
          <p>
            {f.comparison.says} Before: {f.comparison.before.count}
            {f.comparison.before.hours != null && ` in ${f.comparison.before.hours.toFixed(1)} h`}.
          </p>
        </section>
        <section className="mt-4">
          <RunOn title="Month by month" />
          <MonthBars months={f.months} />
          <div className="shelfscroll" tabIndex={0} role="region" aria-label="Month by month">
            <table className="plain">
              <thead>
                <tr>
                  <th>Month</th>
                  <th className="r">Incidents</th>
                  <th className="r">Near misses</th>
                  <th className="r">Laser hours</th>
                </tr>
              </thead>
              <tbody>
                {f.months.map((m) => (
                  <tr key={m.month}>
                    <td>{m.month!.slice(0, 7)}</td>
                    <td className="r">{m.incidents}</td>
                    <td className="r">{m.nearMisses}</td>
                    <td className="r">{m.hours == null ? 'not known' : m.hours.toFixed(1)}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
        </section>
      </div>
      <div>
        <RunOn title="Causes" after={f.rates.incidents.count} />
        <Bars rows={f.causes.map((c) => [c.title, c.count] as const)} none="No cause was ticked in this time." />
        <section className="mt-4">
          <RunOn title="How bad" />
          <Bars
            rows={f.severities.map((s) => [`${s.severity} ${s.says}`, s.count] as const)}
            none="None in this time."
          />
        </section>
        <section className="mt-4">
          <RunOn title="How long it took" after="half were quicker" />
          <dl className={css.details}>
            <dt>To the first hold</dt>
            <dd>{minutesWords(f.toHold)}</dd>
            <dt>To the first word</dt>
            <dd>{minutesWords(f.toWord)}</dd>
            <dt>To closing</dt>
            <dd>{minutesWords(f.toClosing)}</dd>
            <dt>Cost</dt>
            <dd>{f.cost ?? 'none is known'}</dd>
          </dl>
        </section>
      </div>
    </div>
  )
}

/** Counts as bars, with the count beside each. */
function Bars({ rows, none }: { rows: (readonly [string, number])[]; none: string }) {
  const most = Math.max(1, ...rows.map(([, n]) => n))
  if (rows.length === 0) return <p className="quiet">{none}</p>
  return (
    <ul className={css.bars}>
      {rows.map(([name, n]) => (
        <li key={name}>
          <span>{name}</span>
          <svg viewBox="0 0 100 10" preserveAspectRatio="none" aria-hidden="true">
            <rect width={(100 * n) / most} height="10" className={css.incidentbar} />
          </svg>
          <b>{n}</b>
        </li>
      ))}
    </ul>
  )
}
