import { scaleLog } from 'd3-scale'
import type { Schemas } from '../kit/api'
import pieceCss from './pieces.module.css'

const WIDTH = 560
const UP = 26
const DOWN = 74

/** What fell out over its energy, the boundary between, and the energy kept. */
export function Fit({
  cells,
  boundary,
  kept,
}: {
  cells: Schemas['CellResult'][]
  boundary: Schemas['BoundaryResponse']
  kept: number | null
}) {
  const energies = cells.map((c) => c.jPerMm)
  const x = scaleLog([Math.min(...energies) * 0.9, Math.max(...energies, kept ?? 0) * 1.1], [20, WIDTH - 20])
  const { low, high } = boundary
  return (
    <figure className={pieceCss.fit}>
      <svg
        viewBox={`0 0 ${WIDTH} 122`}
        role="img"
        aria-label={`Boundary ${boundary.jPerMm.toFixed(2)} J/mm${low && high ? `, ${low.toFixed(2)} to ${high.toFixed(2)}` : ''}`}
      >
        {low && high && (
          <rect className={pieceCss.between} x={x(low)} y="10" width={Math.max(1, x(high) - x(low))} height="82" />
        )}
        <path className={pieceCss.boundary} d={`M${x(boundary.jPerMm)} 10V92`} />
        {kept && <path className={pieceCss.kept} d={`M${x(kept)} 10V92`} />}
        {cells.map((c, i) => (
          <g key={i} transform={`translate(${x(c.jPerMm)} ${c.through ? UP : DOWN})`}>
            <circle r="5" className={c.through ? pieceCss.through : pieceCss.stayed} />
            {c.charred && <path d="M-7 -7L7 7M7 -7L-7 7" className={pieceCss.charred} />}
          </g>
        ))}
        <path className={pieceCss.axis} d={`M20 92H${WIDTH - 20}`} />
        {[...new Set(energies)]
          .sort((a, b) => a - b)
          .map((e) => (
            <text key={e} x={x(e)} y="108" textAnchor="middle">
              {e.toFixed(2)}
            </text>
          ))}
      </svg>
      <figcaption>
        Above: fell out, crossed where charred. Below: stayed. Line: one in two is through at{' '}
        {boundary.jPerMm.toFixed(2)} J/mm
        {low && high
          ? `, ${boundary.separated ? 'somewhere' : 'at 95 % somewhere'} between ${low.toFixed(2)} and ${high.toFixed(2)}`
          : ''}
        .{kept && ' Thick line: what is kept.'}
      </figcaption>
    </figure>
  )
}
