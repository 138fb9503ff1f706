import type { ReactNode } from 'react'
import type { Schemas } from '../kit/api'
import { lengthIn, useUnit } from '../kit/units'
import drawingsCss from './drawings.module.css'

const minutes = (seconds: number) => {
  const whole = Math.round(seconds)
  return `${Math.floor(whole / 60)}:${String(whole % 60).padStart(2, '0')}`
}

/** What the drawing holds, in which order it runs, and for about how long. */
export function Work({ report, colours }: { report: Schemas['DrawingReport']; colours: ReactNode }) {
  const unit = useUnit()
  const takes = (colour: string | null, operation: string) => {
    const layer = report.time.layers.find((l) => (l.colour ?? null) === colour && l.operation === operation)
    return layer ? minutes(layer.seconds) : ''
  }
  // Rows run across all of them at once.
  const filled = report.fills.length + (report.pictures?.length ?? 0)
  return (
    <>
      <table className={`plain ${drawingsCss.docket}`}>
        <thead>
          <tr>
            <th>Colour</th>
            <th>Operation</th>
            <th className="r">{unit}</th>
            <th className="r">Time</th>
          </tr>
        </thead>
        <tbody>
          {report.strokes.map((s) => (
            <tr key={s.colour}>
              <td>
                <Swatch colour={s.colour} />
              </td>
              <td>
                {s.operation === 'unknown' ? 'none yet' : s.operation}
                {s.openPaths > 0 && s.operation === 'cut' && (
                  <span className={drawingsCss.source}> {s.openPaths} open</span>
                )}
              </td>
              <td className="r">{lengthIn(unit, s.lengthMm)}</td>
              <td className="r">{takes(s.colour, s.operation)}</td>
            </tr>
          ))}
          {report.fills.map((f) => (
            <tr key={`fill ${f.colour}`}>
              <td>
                <Swatch colour={f.colour} />
              </td>
              <td>engrave, filled</td>
              <td className="r">
                {unit === 'in' ? `${(f.areaMm2 / 645.16).toFixed(2)} in²` : `${(f.areaMm2 / 100).toFixed(1)} cm²`}
              </td>
              <td className="r">{filled === 1 && takes(null, 'engrave')}</td>
            </tr>
          ))}
          {(report.pictures ?? []).map((p, i) => (
            <tr key={`picture ${i}`}>
              <td>
                picture{' '}
                {p.pixels > 0 && (
                  <span className={drawingsCss.source}>
                    {p.pixels} × {p.rows} pixels
                  </span>
                )}
              </td>
              <td>
                {p.pixels > 0 ? 'engrave' : 'not in the file'}
                {p.ppi && <span className={drawingsCss.source}>{Math.round(p.ppi)} to the inch</span>}
              </td>
              <td className="r">
                {lengthIn(unit, p.widthMm)} × {lengthIn(unit, p.heightMm)}
              </td>
              <td className="r">{filled === 1 && takes(null, 'engrave')}</td>
            </tr>
          ))}
          {filled > 1 && (
            <tr>
              <td colSpan={3}>fills and pictures, engraved together</td>
              <td className="r">{takes(null, 'engrave')}</td>
            </tr>
          )}
        </tbody>
      </table>
      {colours}
      {report.order.length > 1 && (
        <>
          <h3 className="mt-3">Order to run in</h3>
          <ol className={drawingsCss.runorder}>
            {report.order.map((step) => (
              <li key={`${step.operation} ${step.what}`}>
                <span>
                  {step.operation} {step.lines > 0 ? `${step.lines} ` : ''}
                  {step.what}
                </span>
                {step.lengthMm > 0 && <span className="num">{lengthIn(unit, step.lengthMm)}</span>}
              </li>
            ))}
          </ol>
        </>
      )}
      <p className={drawingsCss.sumline}>
        <b>Run time</b>{' '}
        <b className="num">
          {minutes(report.time.runSeconds)} ({minutes(report.time.low)} to {minutes(report.time.high)})
        </b>
      </p>
      {report.cost && (
        <p className={drawingsCss.sumline}>
          <b>Cost</b>{' '}
          <b className="num">
            {report.cost.amount.toFixed(2)} {report.cost.currency}
          </b>
        </p>
      )}
      {report.energy && (
        <p className={drawingsCss.sumline}>
          <b>From the wall</b> <b className="num">{report.energy.wattHours} Wh</b>
        </p>
      )}
      <p className="small quiet mb-0">
        Page {lengthIn(unit, report.widthMm)} × {lengthIn(unit, report.heightMm)} {unit}. The estimate takes starting
        settings; always start with a test piece.
      </p>
    </>
  )
}

export function Swatch({ colour }: { colour: string }) {
  return (
    <>
      <svg width="12" height="12" aria-hidden="true" className="d-inline-block">
        <rect x="0.5" y="0.5" width="11" height="11" fill={colour} stroke="#24121F" />
      </svg>{' '}
      {colour}
    </>
  )
}
