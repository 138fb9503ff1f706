import type { Schemas } from '../kit/api'
import pieceCss from './pieces.module.css'

export type Told = 'out' | 'charred' | 'stayed' | undefined

const next: Record<string, Told> = { none: 'out', out: 'charred', charred: 'stayed', stayed: undefined }
const words: Record<string, string> = {
  none: 'not told',
  out: 'fell out',
  charred: 'fell out, charred',
  stayed: 'stayed',
}

/** The squares as they lie on the piece: a press says what one did. */
export function Cells({
  cells,
  told,
  tell,
}: {
  cells: Schemas['TestCell'][]
  told: Record<string, Told>
  tell: (label: string, to: Told) => void
}) {
  const rows = [...new Set(cells.map((c) => c.row))]
  return (
    <>
      <p className="quiet mb-2">
        Press a square: fell out, fell out and charred, stayed. What you did not look at stays open.
      </p>
      {rows.map((row) => (
        <div className={pieceCss.row} key={row}>
          {cells
            .filter((c) => c.row === row)
            .map((c) => {
              const state = told[c.label] ?? 'none'
              return (
                <button
                  type="button"
                  key={c.label}
                  data-cell={c.label}
                  data-told={state}
                  className={pieceCss.cell}
                  onClick={() => tell(c.label, next[state])}
                >
                  <b>{c.label}</b>
                  <span>{words[state]}</span>
                  <small>{c.jPerMm?.toFixed(2)} J/mm</small>
                </button>
              )
            })}
        </div>
      ))}
    </>
  )
}
