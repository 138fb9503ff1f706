import type { Schemas } from '../kit/api'
import css from './station.module.css'

const WIDTH = 252
const EDGE = 10

/** A reading on a line: where it is good, where nothing runs, and a plumb bob at what it is. */
export function Gauge({ reading }: { reading: Schemas['StationReading'] }) {
  const { unit } = reading
  // What is not there is left out of the answer.
  const [value, goodFrom, goodTo, shutFrom, shutTo] = [
    reading.value ?? null,
    reading.goodFrom ?? null,
    reading.goodTo ?? null,
    reading.shutFrom ?? null,
    reading.shutTo ?? null,
  ]
  const marks = [goodFrom, goodTo, shutFrom, shutTo].filter((m) => m !== null)
  const low = Math.min(...marks, value ?? Infinity)
  const high = Math.max(...marks, value ?? -Infinity)
  const room = Math.max(1, (high - low) * 0.2)
  const from = low - room
  const to = high + room
  const at = (v: number) => EDGE + (Math.min(Math.max(v, from), to) - from) * ((WIDTH - 2 * EDGE) / (to - from))
  return (
    <div className={css.gauge} data-code={reading.code ?? undefined}>
      <p>
        {reading.what}
        <b>{value === null ? '–' : Number(value.toFixed(1))}</b>
        <span>{unit}</span>
      </p>
      {marks.length > 0 && (
        <svg viewBox={`0 0 ${WIDTH} 46`} aria-hidden="true">
          <line x1={EDGE} x2={WIDTH - EDGE} y1="20" y2="20" className={css.scale} />
          <line x1={at(goodFrom ?? from)} x2={at(goodTo ?? to)} y1="20" y2="20" className={css.good} />
          {shutFrom !== null && <line x1={EDGE} x2={at(shutFrom)} y1="20" y2="20" className={css.shut} />}
          {shutTo !== null && <line x1={at(shutTo)} x2={WIDTH - EDGE} y1="20" y2="20" className={css.shut} />}
          {value !== null && <path d={`M${at(value) - 8} 2h16l-8 15z`} className={css.bob} />}
          {[...new Set(marks)].map((mark) => (
            <text key={mark} x={at(mark)} y="42" textAnchor="middle">
              {Number(mark.toFixed(1))}
            </text>
          ))}
        </svg>
      )}
      <p className={css.gaugeSays}>{reading.says}</p>
    </div>
  )
}
