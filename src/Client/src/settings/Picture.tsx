import type { Schemas } from '../kit/api'
import css from './settings.module.css'

const pens = { part: css.part, cut: css.cut, measure: css.measure }

/** The picture that comes with an answer, in our pens. */
export function Picture({ answer: a }: { answer: Schemas['CalculatorAnswer'] }) {
  return (
    <svg className={css.picture} viewBox={`0 0 ${a.width} ${a.height}`} role="img" aria-label={a.picture.says}>
      {a.picture.lines.map((line) => (
        <path key={line.pen + line.path} d={line.path} className={pens[line.pen]} />
      ))}
      {a.picture.texts.map((t) => (
        <text key={`${t.x} ${t.y} ${t.text}`} x={t.x} y={t.y} textAnchor={t.anchor as 'start'}>
          {t.text}
        </text>
      ))}
    </svg>
  )
}
