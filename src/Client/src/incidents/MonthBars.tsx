import { scaleBand, scaleLinear } from 'd3-scale'
import type { Schemas } from '../kit/api'
import css from './incidents.module.css'

const [WIDTH, HEIGHT, LEFT, BOTTOM] = [560, 150, 26, 22]

/** Incidents and near misses of each month beside each other: never added up. The same figures stand in the table. */
export function MonthBars({ months }: { months: Schemas['MonthFigure'][] }) {
  const most = Math.max(1, ...months.flatMap((m) => [m.incidents, m.nearMisses]))
  const across = scaleBand()
    .domain(months.map((m) => m.month!))
    .range([LEFT, WIDTH])
    .padding(0.25)
  const up = scaleLinear()
    .domain([0, most])
    .nice(Math.min(most, 4))
    .range([HEIGHT - BOTTOM, 8])
  const half = across.bandwidth() / 2
  const name = (month: string) =>
    new Date(`${month}T12:00:00Z`).toLocaleDateString('en-GB', { month: 'short', timeZone: 'UTC' })
  const bar = (x: number, n: number, style: string) =>
    n > 0 && <rect className={style} x={x} y={up(n)} width={Math.max(2, half - 1)} height={up(0) - up(n)} />
  return (
    <figure className={css.chart}>
      <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} role="img" aria-label="Incidents and near misses of each month">
        <defs>
          <pattern id="near-miss-lines" width="5" height="5" patternUnits="userSpaceOnUse">
            <path d="M0 5L5 0" stroke="#6F4B0C" strokeWidth="1.4" />
          </pattern>
        </defs>
        {up
          .ticks(Math.min(most, 4))
          .filter(Number.isInteger)
          .map((t) => (
            <g key={t}>
              <path d={`M${LEFT} ${up(t)}H${WIDTH}`} className={css.gridline} />
              <text x={LEFT - 5} y={up(t) + 4} textAnchor="end" className={css.tick}>
                {t}
              </text>
            </g>
          ))}
        {months.map((m) => (
          <g key={m.month}>
            {bar(across(m.month!)!, m.incidents, css.incidentbar!)}
            {bar(across(m.month!)! + half, m.nearMisses, css.nearbar!)}
            <text x={across(m.month!)! + half} y={HEIGHT - 6} textAnchor="middle" className={css.tick}>
              {name(m.month!)}
            </text>
          </g>
        ))}
      </svg>
      <figcaption className={css.small}>
        <i className={css.incidentkey} /> incidents <i className={css.nearkey} /> near misses, told without a name
      </figcaption>
    </figure>
  )
}
