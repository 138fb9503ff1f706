import Button from 'react-bootstrap/Button'
import type { Schemas } from '../kit/api'
import { RunOn } from '../kit/parts'
import type { Chosen } from './Sheet'
import drawingsCss from './drawings.module.css'

const severity: Record<Schemas['Severity'], string> = { stop: 'Must mend', warn: 'Weigh up', note: 'Note' }

const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1)

/** What was found in a drawing, what was looked for and not found, and what nobody looked at. */
export function Findings({
  report: { findings, notFound, notLookedAt },
  chosen,
  choose,
}: {
  report: Schemas['DrawingReport']
  chosen: Chosen | undefined
  choose: (chosen: Chosen) => void
}) {
  return (
    <section aria-label="Findings">
      <RunOn title="Findings" after={findings.length} />
      <ol className={drawingsCss.findings}>
        {findings.map((f, i) => (
          <li key={f.code + f.severity} className={i === chosen?.finding ? drawingsCss.chosen : ''} data-code={f.code}>
            <button type="button" onClick={() => choose({ finding: i, place: 0 })} aria-pressed={i === chosen?.finding}>
              <span className={drawingsCss.pin}>{i + 1}</span>
              <span>
                <span className={`${drawingsCss.sev} ${f.severity}`}>
                  <svg width="18" height="8" viewBox="0 0 18 8" aria-hidden="true">
                    {f.severity === 'stop' ? (
                      <path d="M0 1H18V7H0Z" fill="currentColor" />
                    ) : (
                      <path d="M1 1Q9 12 17 1" fill="none" stroke="currentColor" strokeWidth="2.4" />
                    )}
                  </svg>
                  {f.asks ? 'Needs a steward' : severity[f.severity]}
                </span>
                <b>{f.text}</b>
                <span className={drawingsCss.why}>{f.why}</span>
                <span className={drawingsCss.source}>
                  {f.code}, {f.count} {f.count === 1 ? 'place' : 'places'}
                </span>
              </span>
            </button>
            {i === chosen?.finding && f.at.length > 1 && (
              <Places
                count={f.at.length}
                of={f.count}
                at={chosen.place}
                go={(place) => choose({ finding: i, place })}
              />
            )}
          </li>
        ))}
      </ol>
      {findings.length === 0 && <p>None of the faults that are looked for was found.</p>}
      {notFound.length > 0 && (
        <>
          <h3>Looked for, not found</h3>
          <p className="quiet">{capital(notFound.join(', '))}.</p>
        </>
      )}
      <h3>Not looked at</h3>
      <ul className={`quiet ${drawingsCss.notlooked}`}>
        {notLookedAt.map((what) => (
          <li key={what}>{capital(what)}</li>
        ))}
      </ul>
    </section>
  )
}

/** Goes from one marked place of a finding to the next. */
function Places({ count, of, at, go }: { count: number; of: number; at: number; go: (place: number) => void }) {
  return (
    <div className={drawingsCss.places}>
      <Button variant="outline-primary" size="sm" disabled={at === 0} onClick={() => go(at - 1)}>
        Place before
      </Button>
      <span aria-live="polite">
        {at + 1} of {count}
        {of > count ? ' marked' : ''}
      </span>
      <Button variant="outline-primary" size="sm" disabled={at + 1 >= count} onClick={() => go(at + 1)}>
        Next place
      </Button>
    </div>
  )
}
