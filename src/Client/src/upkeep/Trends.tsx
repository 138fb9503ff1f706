import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import type { Schemas } from '../kit/api'
import { MachineField } from '../kit/MachineField'
import { Failure, Loading, RunOn, SelectField } from '../kit/parts'
import { useMachines } from '../kit/session'
import { Chart, type ChartLimit } from './Chart'
import { spans, trendsQuery } from './upkeepQueries'
import css from './upkeep.module.css'

/** How a machine fares over weeks and years, each figure with its limits. */
export function Trends() {
  const machines = useMachines()
  const [chosen, setChosen] = useState('')
  const [days, setDays] = useState<string>(spans[1].days)
  const machineId = chosen || machines.data?.[0]?.id || ''
  const trends = useQuery({
    ...trendsQuery(machineId, days),
    enabled: machineId !== '',
    placeholderData: keepPreviousData,
  })
  const t = trends.data
  return (
    <section className={css.trends}>
      <RunOn title="Trends" after="what wears, before it fails" />
      <div className={css.pick}>
        <MachineField id="trend-machine" label="Trends of" value={machineId} put={setChosen} />
        <SelectField
          id="trend-days"
          label="Over"
          value={days}
          put={setDays}
          options={spans.map((s) => [s.days, s.name] as const)}
        />
      </div>
      {trends.isPending && machineId && <Loading what="the trends" />}
      <Failure error={trends.error} retry={() => void trends.refetch()} />
      {t && (
        <>
          {t.says.map((s) => (
            <p key={s} className={css.foreseen}>
              {s}
            </p>
          ))}
          <div className={css.charts}>
            <Airflow t={t} />
            <Coolant t={t} />
            <Chart
              title="Hours of runs a week"
              unit="h"
              from={t.from!}
              to={t.to!}
              bars={t.weeks.map((w) => ({ day: w.monday!, value: w.hours }))}
              none={t.weeks.every((w) => w.hours === 0) ? 'No run in this time.' : undefined}
            />
            <Chart
              title="Planned over actual length, each week’s middle of the newest runs"
              unit=""
              from={t.from!}
              to={t.to!}
              points={t.weeks.flatMap((w) =>
                w.estimateToActual == null ? [] : [{ day: w.monday!, value: w.estimateToActual }],
              )}
              limits={[{ at: 1, says: 'as planned' }]}
              none={t.weeks.every((w) => w.estimateToActual == null) ? 'No planned run among the newest.' : undefined}
            />
            <Chart
              title="Not through, of each week’s runs"
              unit="%"
              from={t.from!}
              to={t.to!}
              bars={t.weeks.flatMap((w) =>
                w.ended === 0 ? [] : [{ day: w.monday!, value: (100 * w.notThrough) / w.ended }],
              )}
              none={t.weeks.every((w) => w.ended === 0) ? 'No run in this time.' : undefined}
            />
          </div>
        </>
      )}
    </section>
  )
}

type TrendsOf = { t: Schemas['TrendsResponse'] }

const named = (d: Schemas['DayValue']) => ({ day: d.day!, value: d.value })

function Airflow({ t }: TrendsOf) {
  const a = t.airflow
  const limits: ChartLimit[] = a
    ? [
        { at: a.due, says: 'cleaning due' },
        { at: a.asks, says: 'a steward decides' },
        { at: a.shut, says: 'nothing runs', strong: true },
      ]
    : []
  return (
    <Chart
      title="Airflow, the middle of each day"
      unit="m³/h"
      from={t.from!}
      to={t.to!}
      points={a?.days.map((d) => ({ day: d.day!, value: d.median, least: d.least }))}
      crosses={a?.byHand.map(named)}
      marks={a?.baselines.map((b) => ({ ...named(b), says: 'read after a service' }))}
      limits={limits}
      none={
        a == null
          ? 'It was never measured at commissioning.'
          : a.days.length === 0
            ? 'Not read in this time.'
            : undefined
      }
    />
  )
}

function Coolant({ t }: TrendsOf) {
  const c = t.coolant
  if (!c) return null
  return (
    <Chart
      title="Coolant, the warmest of each day"
      unit="°C"
      from={t.from!}
      to={t.to!}
      points={c.days.map(named)}
      limits={[
        { at: c.caution, says: 'caution' },
        { at: c.asks, says: 'a steward decides' },
        { at: c.shut, says: 'nothing runs', strong: true },
      ]}
      none={c.days.length === 0 ? 'Not read in this time.' : undefined}
    />
  )
}
