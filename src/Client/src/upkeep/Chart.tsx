import { scaleLinear } from 'd3-scale'
import css from './upkeep.module.css'

type Point = { day: string; value: number; least?: number }
/** A line across, and what lies beyond it. */
export type ChartLimit = { at: number; says: string; strong?: boolean }

const [WIDTH, HEIGHT, LEFT, BOTTOM, TOP, RIGHT] = [420, 150, 40, 20, 10, 8]
const day = (iso: string) => Date.parse(`${iso}T12:00:00Z`) / 86_400_000

/** One figure of a machine over time; the same figures stand in a table for whoever reads no picture. */
export function Chart({
  title,
  unit,
  from,
  to,
  points = [],
  bars = [],
  crosses = [],
  marks = [],
  limits = [],
  none,
}: {
  title: string
  unit: string
  from: string
  to: string
  points?: Point[] | undefined
  bars?: Point[] | undefined
  crosses?: Point[] | undefined
  marks?: (Point & { says: string })[] | undefined
  limits?: ChartLimit[]
  none?: string | undefined
}) {
  if (none)
    return (
      <figure className={css.chart}>
        <figcaption>{title}</figcaption>
        <p className="small quiet">{none}</p>
      </figure>
    )
  const across = scaleLinear()
    .domain([day(from) - 0.5, day(to) + 0.5])
    .range([LEFT, WIDTH - RIGHT])
  const values = [...points, ...bars, ...crosses].flatMap((p) => [p.value, p.least ?? p.value])
  const all = [...values, ...limits.map((l) => l.at)]
  const low = bars.length > 0 ? 0 : Math.min(...all)
  const high = Math.max(...all, low + 1e-6)
  const up = scaleLinear()
    .domain([low - (bars.length > 0 ? 0 : (high - low) * 0.08), high + (high - low) * 0.08])
    .nice(4)
    .range([HEIGHT - BOTTOM, TOP])
  const shown = marks.filter((m) => day(m.day) >= day(from))
  const wide = Math.max(1.5, across(7) - across(0) - 1.5)
  return (
    <figure className={css.chart}>
      <figcaption>
        {title}
        {unit && `, ${unit}`}
      </figcaption>
      <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} role="img" aria-label={title}>
        {up.ticks(4).map((t) => (
          <g key={t}>
            <path d={`M${LEFT} ${up(t)}H${WIDTH - RIGHT}`} className={css.gridline} />
            <text x={LEFT - 5} y={up(t) + 4} textAnchor="end">
              {t}
            </text>
          </g>
        ))}
        {across.ticks(4).map((t) => (
          <text key={t} x={across(t)} y={HEIGHT - 5} textAnchor="middle">
            {new Date(t * 86_400_000).toLocaleDateString('en-GB', named(from, to))}
          </text>
        ))}
        {bars.map((b) => {
          const x = Math.max(LEFT, across(day(b.day) - 0.5))
          const w = Math.min(wide, WIDTH - RIGHT - x)
          return <rect key={b.day} x={x} y={up(b.value)} width={w} height={up(0) - up(b.value)} className={css.barof} />
        })}
        {shown.map((m) => (
          <g key={`${m.day}${m.value}`}>
            <path d={`M${across(day(m.day))} ${TOP}V${HEIGHT - BOTTOM}`} className={css.markline} />
            <title>{`${m.says}: ${m.value}`}</title>
          </g>
        ))}
        {points.length > 1 && (
          <path d={`M${points.map((p) => `${across(day(p.day))} ${up(p.value)}`).join('L')}`} className={css.line} />
        )}
        {points.map((p) => (
          <g key={p.day}>
            {p.least != null && p.least < p.value && (
              <path d={`M${across(day(p.day))} ${up(p.value)}V${up(p.least)}`} className={css.least} />
            )}
            <circle cx={across(day(p.day))} cy={up(p.value)} r={points.length > 100 ? 1 : 2.2} className={css.point} />
          </g>
        ))}
        {crosses.map((p, i) => (
          <path key={i} d={`M${across(day(p.day)) - 4} ${up(p.value)}h8m-4-4v8`} className={css.cross} />
        ))}
        {limits.map((l) => (
          <g key={l.says}>
            <path d={`M${LEFT} ${up(l.at)}H${WIDTH - RIGHT}`} className={l.strong ? css.limitstrong : css.limit} />
            <text x={LEFT + 3} y={up(l.at) - 3} className={css.limitword}>
              {l.says}
            </text>
          </g>
        ))}
      </svg>
      {(crosses.length > 0 || shown.length > 0) && (
        <p className="small quiet mb-0">
          {crosses.length > 0 && '+ read by hand. '}
          {shown.length > 0 && 'Upright line: read after a service.'}
        </p>
      )}
      <details className="fold">
        <summary>In figures</summary>
        <ul className="plainlist small">
          {limits.map((l) => (
            <li key={l.says}>
              {l.says}: {round(l.at)} {unit}
            </li>
          ))}
          {shown.map((m) => (
            <li key={`mark ${m.day}${m.value}`}>
              {m.day}, {m.says}: {round(m.value)} {unit}
            </li>
          ))}
          {crosses.map((p, i) => (
            <li key={i}>
              {p.day}, read by hand: {round(p.value)} {unit}
            </li>
          ))}
          {[...points, ...bars].map((p) => (
            <li key={p.day}>
              {p.day}: {round(p.value)} {unit}
              {p.least != null && p.least < p.value && `, at least ${round(p.least)}`}
            </li>
          ))}
        </ul>
      </details>
    </figure>
  )
}

const round = (value: number) => Number(value.toFixed(2))

/** A day is named by its month where some months are shown, by its year where years are. */
const named = (from: string, to: string): Intl.DateTimeFormatOptions =>
  day(to) - day(from) > 400
    ? { month: 'short', year: 'numeric', timeZone: 'UTC' }
    : { day: 'numeric', month: 'short', timeZone: 'UTC' }
