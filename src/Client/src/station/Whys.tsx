import type { Doing } from './useStation'
import css from './station.module.css'

const whys = [
  ['sheetMoved', 'Sheet moved'],
  ['wrongSettings', 'Wrong settings'],
  ['byMistake', 'By mistake'],
  ['flame', 'Flame or glow'],
  ['smell', 'Choking smell'],
  ['misbehaves', 'It misbehaves'],
  ['alarm', 'Building’s alarm'],
] as const

/** Why it was stopped, one press each. */
export function Whys({ doing }: { doing: Doing }) {
  return (
    <div className={css.taps}>
      {whys.map(([why, words]) => (
        <button
          key={why}
          type="button"
          className={css.other}
          disabled={doing.isPending}
          onClick={() => doing.mutate({ act: 'stop', why })}
        >
          {words}
        </button>
      ))}
    </div>
  )
}
