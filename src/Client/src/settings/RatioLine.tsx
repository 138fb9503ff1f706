import css from './settings.module.css'

const WIDTH = 356
const MARKS = [0.8, 1.25, 1.6, 2]
const WORDS = ['weak', 'OK', 'warm', 'hot', 'double']
const FROM = 0.6
const TO = 2.3
const x = (ratio: number) => 6 + ((Math.min(TO, Math.max(FROM, ratio)) - FROM) / (TO - FROM)) * (WIDTH - 12)

/** Where a setting's thickness over the measured one lies between too weak and twice too much. */
export function RatioLine({ ratio, words }: { ratio: number; words: string }) {
  const edges = [FROM, ...MARKS, TO]
  return (
    <figure className={css.ratio}>
      <svg viewBox={`0 0 ${WIDTH} 76`} role="img" aria-label={`Ratio ${ratio}: ${words}`}>
        <path d={`M6 26H${WIDTH - 6}`} className={css.measure} />
        <path d={`M${x(0.8)} 26H${x(1.25)}`} className={css.fits} />
        <path d={`M${x(2)} 26H${WIDTH - 6}`} className={css.never} />
        {MARKS.map((mark) => (
          <g key={mark}>
            <path d={`M${x(mark)} 17V35`} className={css.mark} />
            <text x={x(mark)} y="50" textAnchor="middle">
              {mark}
            </text>
          </g>
        ))}
        {WORDS.map((word, i) => (
          <text key={word} x={(x(edges[i]!) + x(edges[i + 1]!)) / 2} y="70" textAnchor="middle" className={css.word}>
            {word}
          </text>
        ))}
        <path d={`M${x(ratio)} 23l-8-14h16z`} className={css.pointer} />
        <text x={x(ratio) + 14} y="15" className={css.word}>
          {ratio}
        </text>
      </svg>
      <figcaption>Thickness it is for over thickness measured. {words}</figcaption>
    </figure>
  )
}
