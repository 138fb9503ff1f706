import { useEffect, useMemo, useRef, useState } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import type { Schemas } from '../kit/api'
import { lengthIn, useUnit } from '../kit/units'
import { LinesCanvas } from './LinesCanvas'
import { RunCanvas } from './RunCanvas'
import type { Watched } from './Scrub'
import { usePictures } from './usePictures'
import { useView } from './useView'
import drawingsCss from './drawings.module.css'

/** A finding of the list, and which of its places. */
export interface Chosen {
  finding: number
  place: number
}

const named = (line: Schemas['LineResponse']) => `${line.filled ? 'filled ' : ''}${line.colour}`

/** The drawing on its page in mm, cut solid, score dashed, engraving tinted or dotted, with the findings pinned to it. */
export function Sheet({
  id,
  report,
  drawn: { lines, upwards, pictures: placed },
  chosen,
  choose,
  clamps,
  mark,
  watched,
}: {
  id: string
  report: Schemas['DrawingReport']
  drawn: Schemas['LinesResponse']
  chosen: Chosen | undefined
  choose: (chosen: Chosen) => void
  clamps: Schemas['Clamp'][]
  /** Set while a clamp is being marked: takes the place of the next click, in mm. */
  mark: ((x: number, y: number) => void) | undefined
  /** Set while somebody watches the run. */
  watched?: Watched | undefined
}) {
  const unit = useUnit()
  const pressed = useRef({ x: 0, y: 0 })
  const seen = usePictures(id, placed)
  const key = seen.map((p) => p.image.src + p.place.join(' ')).join('|')
  // The same lines and pictures are the same lists: else every move of the view would draw anew.
  const pictures = useMemo(() => seen, [key]) // eslint-disable-line react-hooks/exhaustive-deps
  const [hidden, setHidden] = useState<string[]>([])
  const shown = useMemo(() => lines.filter((line) => !hidden.includes(named(line))), [lines, hidden])
  const extent = report.extentMm
  const turn = upwards ? -1 : 1
  // Where y grows upwards there is no page: the drawing itself is shown, turned over.
  const box = upwards
    ? { x: extent?.minX ?? 0, y: -(extent?.maxY ?? 1), right: extent?.maxX ?? 1, bottom: -(extent?.minY ?? 0) }
    : {
        x: Math.min(0, extent?.minX ?? 0),
        y: Math.min(0, extent?.minY ?? 0),
        right: Math.max(report.widthMm, extent?.maxX ?? 0, 1),
        bottom: Math.max(report.heightMm, extent?.maxY ?? 0, 1),
      }
  const bounds = { x: box.x, y: box.y, width: box.right - box.x, height: box.bottom - box.y }
  const { box: viewRef, view, size, handlers, whole, show, fit, larger, smaller } = useView(bounds)
  const px = (x: number, y: number) => ({
    x: size.width / 2 + (x - view.x) * view.scale,
    y: size.height / 2 + (turn * y - view.y) * view.scale,
  })
  const finding = chosen && report.findings[chosen.finding]
  const at = chosen && finding?.at[chosen.place]
  const span = chosen && finding?.spans?.[chosen.place]
  // Wide enough to see what was measured: twenty times its width, or a good piece of the drawing.
  const wide = span
    ? 20 * Math.max(0.1, Math.hypot(span[2]! - span[0]!, span[3]! - span[1]!))
    : Math.max(bounds.width, bounds.height) / 5
  useEffect(() => {
    if (at) show(at[0]!, turn * at[1]!, wide)
    // Only when another place is chosen: looking around afterwards is left alone.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [chosen?.finding, chosen?.place])
  // One pin for each finding, and all of those of the chosen one: else they would hide the drawing.
  const pins = report.findings.flatMap((f, i) =>
    f.at.slice(0, i === chosen?.finding ? undefined : 1).map((place, n) => ({ i, n, ...px(place[0]!, place[1]!) })),
  )
  const inSight = fanned(pins).filter((p) => p.x > -40 && p.y > -40 && p.x < size.width + 40 && p.y < size.height + 40)
  return (
    <figure className={drawingsCss.sheetbox}>
      <div
        ref={viewRef}
        className={`${drawingsCss.sheetview} ${mark ? drawingsCss.marking : ''}`}
        role="application"
        aria-roledescription="drawing"
        data-watched={!!watched}
        aria-label={
          `The drawing, ${bounds.width.toFixed(0)} by ${bounds.height.toFixed(0)} millimetres, with ${pins.length} marked ` +
          'places. Plus and minus zoom, arrows move, 0 shows all of it.'
        }
        tabIndex={0}
        {...handlers}
        onPointerDownCapture={(event) => {
          pressed.current = { x: event.clientX, y: event.clientY }
        }}
        onClick={(event) => {
          // A drag ends in a click too.
          if (!mark || Math.hypot(event.clientX - pressed.current.x, event.clientY - pressed.current.y) > 5) return
          if ((event.target as Element).closest('button')) return
          const place = event.currentTarget.getBoundingClientRect()
          mark(
            view.x + (event.clientX - place.left - size.width / 2) / view.scale,
            turn * (view.y + (event.clientY - place.top - size.height / 2) / view.scale),
          )
        }}
      >
        <LinesCanvas
          lines={shown}
          pictures={pictures}
          page={upwards ? undefined : { width: report.widthMm, height: report.heightMm }}
          upwards={upwards}
          view={view}
          width={size.width}
          height={size.height}
        />
        {watched && <RunCanvas {...watched} turn={turn} view={view} width={size.width} height={size.height} />}
        <svg className={drawingsCss.pins} width={size.width} height={size.height} aria-hidden="true">
          {clamps.map((clamp, i) => (
            <ClampMark key={i} at={px(clamp.x, clamp.y)} across={clamp.across * view.scale} number={i + 1} />
          ))}
          {inSight.map((pin) => {
            const on = pin.i === chosen?.finding && pin.n === chosen.place
            return (
              <g
                key={`${pin.i} ${pin.n}`}
                className={`${drawingsCss.pinmark} ${on ? drawingsCss.chosen : ''}`}
                transform={`translate(${pin.x} ${pin.y})`}
                onClick={() => choose({ finding: pin.i, place: pin.n })}
              >
                <circle r="5" fill="none" stroke="#6F4B0C" strokeWidth="1.6" />
                {(on || pin.i !== chosen?.finding) && <Badge on={on} number={pin.i + 1} way={pin.way} />}
              </g>
            )
          })}
          {span && <Measured a={px(span[0]!, span[1]!)} b={px(span[2]!, span[3]!)} />}
        </svg>
        <div className={drawingsCss.sheettools}>
          <Button variant="light" size="sm" aria-label="Zoom in" onClick={larger}>
            +
          </Button>
          <Button variant="light" size="sm" aria-label="Zoom out" onClick={smaller}>
            −
          </Button>
          <Button variant="light" size="sm" onClick={fit} disabled={whole}>
            All of it
          </Button>
        </div>
        {span && (
          <output className={drawingsCss.measured}>
            {lengthIn(unit, Math.hypot(span[2]! - span[0]!, span[3]! - span[1]!))} {unit} apart
          </output>
        )}
      </div>
      {lines.length > 1 && (
        <fieldset className={drawingsCss.layers}>
          <legend className="visually-hidden">Colours shown</legend>
          {lines.map((line) => (
            <Form.Check
              key={named(line)}
              inline
              id={`layer-${named(line)}`}
              label={`${named(line)}, ${line.filled ? 'engrave' : line.operation}`}
              checked={!hidden.includes(named(line))}
              onChange={(event) =>
                setHidden((now) =>
                  event.target.checked ? now.filter((h) => h !== named(line)) : [...now, named(line)],
                )
              }
            />
          ))}
        </fieldset>
      )}
      <figcaption className="small quiet">
        In {unit}; the {extent ? 'drawing' : 'page'} is{' '}
        {extent
          ? `${lengthIn(unit, extent.maxX - extent.minX)} × ${lengthIn(unit, extent.maxY - extent.minY)}`
          : `${lengthIn(unit, report.widthMm)} × ${lengthIn(unit, report.heightMm)}`}
        . Cut solid, score dashed, engraving tinted or dotted. Nothing is changed.
      </figcaption>
    </figure>
  )
}

/** As large as it is, and never too small to be seen. */
function ClampMark({ at, across, number }: { at: { x: number; y: number }; across: number; number: number }) {
  const half = Math.max(across, 14) / 2
  return (
    <g className="clampmark" transform={`translate(${at.x} ${at.y})`}>
      <rect
        x={-half}
        y={-half}
        width={2 * half}
        height={2 * half}
        rx={half / 3}
        fill="#57204F"
        fillOpacity="0.25"
        stroke="#57204F"
        strokeWidth="2"
      />
      <text x={-half - 4} y={5 - half} className={drawingsCss.clampnumber} textAnchor="end">
        {number}
      </text>
    </g>
  )
}

/** Pins of one place stand round it, so that none hides another. */
function fanned<T extends { x: number; y: number }>(pins: T[]): (T & { way: number })[] {
  const taken = new Map<string, number>()
  return pins.map((pin) => {
    const place = `${Math.round(pin.x / 8)} ${Math.round(pin.y / 8)}`
    const before = taken.get(place) ?? 0
    taken.set(place, before + 1)
    return { ...pin, way: ((-45 + 62 * before) * Math.PI) / 180 }
  })
}

function Badge({ on, number, way }: { on: boolean; number: number; way: number }) {
  const [x, y] = [Math.cos(way), Math.sin(way)]
  return (
    <>
      <path d={`M${6 * x} ${6 * y}L${17 * x} ${17 * y}`} stroke="#6F4B0C" strokeWidth="1.6" />
      <circle cx={27 * x} cy={27 * y} r="10" fill={on ? '#57204F' : '#DDB765'} stroke="#6F4B0C" strokeWidth="1.3" />
      <text
        x={27 * x}
        y={27 * y + 4.5}
        fontSize="13"
        fontWeight="700"
        textAnchor="middle"
        fill={on ? '#FFF8EA' : '#24121F'}
      >
        {number}
      </text>
    </>
  )
}

/** The two ends of what was measured, and the line between them, prolonged where they are too near to be seen. */
function Measured({ a, b }: { a: { x: number; y: number }; b: { x: number; y: number } }) {
  const length = Math.hypot(b.x - a.x, b.y - a.y) || 1
  const [ux, uy] = [(b.x - a.x) / length, (b.y - a.y) / length]
  const tick = (at: { x: number; y: number }, way: number) =>
    `M${at.x + way * 16 * ux} ${at.y + way * 16 * uy}L${at.x} ${at.y}M${at.x - 6 * uy} ${at.y + 6 * ux}L${at.x + 6 * uy} ${at.y - 6 * ux}`
  return <path className="span" d={`${tick(a, -1)}${tick(b, 1)}`} fill="none" stroke="#A81E12" strokeWidth="1.8" />
}
