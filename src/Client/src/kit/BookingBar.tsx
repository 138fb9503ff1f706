import type { Schemas } from './api'

type Part = Schemas['BookingPart']

const texture: Record<Part['part'], string> = {
  checks: 'tx-checks',
  extractionLead: 'tx-lead',
  testPiece: 'tx-setup',
  run: 'tx-run',
  changeover: 'tx-setup',
  clearing: 'tx-clear',
  cleanDown: 'tx-clean',
  spare: 'tx-spare',
}

export const partWords: Record<Part['part'], string> = {
  checks: 'Checks',
  extractionLead: 'Extraction lead',
  testPiece: 'Test piece',
  run: 'Runs, with a spare',
  changeover: 'Changeover',
  clearing: 'Air clearing',
  cleanDown: 'Clean-down',
  spare: 'To spare',
}

/** The stretches of a booking, told apart by mark: lines before the run, dots after it. */
export function BookingBar({ parts, label }: { parts: Pick<Part, 'part' | 'minutes'>[]; label?: string }) {
  const total = parts.reduce((sum, part) => sum + part.minutes, 0)
  return (
    <span className="bar" role={label ? 'img' : undefined} aria-label={label} aria-hidden={label ? undefined : true}>
      {parts.map((part, i) => (
        <i key={i} className={`tx ${texture[part.part]}`} style={{ width: `${(100 * part.minutes) / total}%` }} />
      ))}
    </span>
  )
}

export function PartList({ length, minutes }: { length: Schemas['LengthResponse']; minutes: number }) {
  return (
    <>
      <BookingBar parts={length.parts} label={`${minutes} minutes in all`} />
      <table className="partlist">
        <tbody>
          {length.parts.map((part, i) => (
            <tr key={i}>
              <td>
                <i className={`tx ${texture[part.part]}`} />
              </td>
              <td>
                {partWords[part.part]}
                {part.says && `, ${part.says}`}
              </td>
              <td className="r">{Number(part.minutes.toFixed(1))}</td>
            </tr>
          ))}
          <tr className="sum">
            <td />
            <td>To book</td>
            <td className="r">{minutes} min</td>
          </tr>
        </tbody>
      </table>
    </>
  )
}
