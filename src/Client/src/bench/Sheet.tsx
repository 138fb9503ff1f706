import { useId } from 'react'
import type { Schemas } from '../shared/api'
import { lengthIn, useUnit } from '../shared/units'

const dash: Record<Schemas['StrokeMeaning'], string | undefined> = {
  cut: undefined,
  score: '6 3 1 3',
  engrave: '1.5 2.5',
  ignore: '1 6',
  unknown: '3 3',
}

/** The drawing on its page in mm, cut solid, score dashed, engraving hatched, with the findings pinned to it. */
export function Sheet({
  report,
  drawn: { lines, upwards },
  chosen,
  choose,
}: {
  report: Schemas['DrawingReport']
  drawn: Schemas['LinesAnswer']
  chosen: number
  choose: (i: number) => void
}) {
  const hatch = useId()
  const shown = useUnit()
  const extent = report.extentMm
  // Where y grows upwards there is no page: the drawing itself is shown, turned over.
  const box = upwards
    ? { x: extent?.minX ?? 0, y: -(extent?.maxY ?? 1), right: extent?.maxX ?? 1, bottom: -(extent?.minY ?? 0) }
    : {
        x: Math.min(0, extent?.minX ?? 0),
        y: Math.min(0, extent?.minY ?? 0),
        right: Math.max(report.widthMm, extent?.maxX ?? 0, 1),
        bottom: Math.max(report.heightMm, extent?.maxY ?? 0, 1),
      }
  const width = box.right - box.x
  const height = box.bottom - box.y
  const unit = Math.max(width, height, 1) / 100
  const margin = 5 * unit
  const pins = report.findings.flatMap((f, i) =>
    f.at.map((at) => ({ i, x: at[0]!, y: upwards ? -at[1]! : at[1]!, severity: f.severity })),
  )
  return (
    <figure className="sheetbox">
      <svg
        viewBox={`${box.x - margin} ${box.y - margin} ${width + 2 * margin} ${height + 2 * margin}`}
        role="img"
        aria-label={`The drawing, ${width.toFixed(0)} by ${height.toFixed(0)} millimetres, with ${pins.length} marked places`}
      >
        <defs>
          <pattern
            id={hatch}
            width={unit * 0.8}
            height={unit * 0.8}
            patternUnits="userSpaceOnUse"
            patternTransform="rotate(45)"
          >
            <path d={`M0 0V${unit}`} stroke="#6F4B0C" strokeWidth={unit * 0.35} />
          </pattern>
        </defs>
        {!upwards && (
          <rect
            x={0}
            y={0}
            width={report.widthMm}
            height={report.heightMm}
            fill="#FBF6EA"
            stroke="#CDBB9B"
            strokeWidth={unit * 0.15}
          />
        )}
        <g transform={upwards ? 'scale(1 -1)' : undefined}>
          {lines.map((line) =>
            line.filled ? (
              <path
                key={`f${line.colour}`}
                d={line.path}
                fill={`url(#${hatch})`}
                fillRule="evenodd"
                stroke="#6F4B0C"
                strokeWidth={unit * 0.12}
              />
            ) : (
              <path
                key={line.colour}
                d={line.path}
                fill="none"
                stroke={line.operation === 'cut' ? '#24121F' : line.operation === 'unknown' ? '#A81E12' : '#57204F'}
                strokeWidth={line.operation === 'cut' ? 1.6 : 1.3}
                strokeDasharray={dash[line.operation]}
                vectorEffect="non-scaling-stroke"
              />
            ),
          )}
        </g>
        {pins.map((pin, n) => (
          <g key={n} className={`pinmark ${pin.i === chosen ? 'chosen' : ''}`} onClick={() => choose(pin.i)}>
            <circle cx={pin.x} cy={pin.y} r={unit * 1.1} fill="none" stroke="#6F4B0C" strokeWidth={unit * 0.35} />
            <path
              d={`M${pin.x + unit} ${pin.y - unit}l${unit * 1.6} ${-unit * 1.6}`}
              stroke="#6F4B0C"
              strokeWidth={unit * 0.35}
            />
            <circle
              cx={pin.x + unit * 3.6}
              cy={pin.y - unit * 3.6}
              r={unit * 1.9}
              fill={pin.i === chosen ? '#57204F' : '#DDB765'}
              stroke="#6F4B0C"
              strokeWidth={unit * 0.3}
            />
            <text
              x={pin.x + unit * 3.6}
              y={pin.y - unit * 2.75}
              fontSize={unit * 2.5}
              fontWeight="700"
              textAnchor="middle"
              fill={pin.i === chosen ? '#FFF8EA' : '#24121F'}
            >
              {pin.i + 1}
            </text>
          </g>
        ))}
      </svg>
      <figcaption className="small quiet">
        In {shown}; the drawing is{' '}
        {extent
          ? `${lengthIn(shown, extent.maxX - extent.minX)} × ${lengthIn(shown, extent.maxY - extent.minY)}`
          : 'empty'}
        . Cut solid, score dashed, engraving hatched or dotted. Nothing is changed.
      </figcaption>
    </figure>
  )
}
