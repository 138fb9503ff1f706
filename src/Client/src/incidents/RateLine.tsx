import { scaleLinear } from 'd3-scale'
import type { Schemas } from '../kit/api'
import css from './incidents.module.css'

const two = (value: number) => value.toFixed(2)

/** One rate with its exact limits, on a line that both rates share. */
export function RateLine({ name, rate, most }: { name: string; rate: Schemas['Rate']; most: number }) {
  const along = scaleLinear().domain([0, most]).nice(4).range([6, 394])
  if (rate.per100 == null || rate.low == null || rate.high == null)
    return (
      <p>
        <b>{name}</b> {rate.count}. Nobody knows the laser hours of that time: there is no rate.
      </p>
    )
  return (
    <div className={css.rate}>
      <b>{name}</b>
      <svg
        viewBox="0 0 400 34"
        role="img"
        aria-label={`${two(rate.per100)} for each 100 laser hours, from ${two(rate.low)} to ${two(rate.high)}`}
      >
        <path d="M6 14H394" className={css.gridline} />
        {along.ticks(4).map((t) => (
          <text key={t} x={along(t)} y="31" textAnchor="middle" className={css.tick}>
            {t}
          </text>
        ))}
        <path d={`M${along(rate.low)} 14H${along(rate.high)}`} className={css.limits} />
        <circle cx={along(rate.per100)} cy="14" r="5.5" className={css.ratedot} />
      </svg>
      <span>
        {rate.count} in {rate.hours!.toFixed(1)} h: <b>{two(rate.per100)}</b> per 100 h ({two(rate.low)} to{' '}
        {two(rate.high)})
      </span>
    </div>
  )
}
