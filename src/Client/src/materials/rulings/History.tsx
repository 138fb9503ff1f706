import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import Form from 'react-bootstrap/Form'
import { Link } from 'react-router'
import type { Schemas } from '../../kit/api'
import { Failure, RunOn } from '../../kit/parts'
import { useSession } from '../../kit/session'
import { useUnit } from '../../kit/units'
import { historyQuery } from '../materialQueries'
import { kindNames, nameOf } from '../words'
import rulingsCss from '../rulings.module.css'

type Version = Schemas['VersionOfRuling']

/** Every ruling there ever was on a material, newest first; two of them can be laid side by side. */
export function History({ id }: { id: string }) {
  const unit = useUnit()
  const { time, now } = useSession()
  const history = useQuery(historyQuery(unit, id))
  const [chosen, setChosen] = useState<string[]>([])
  if (!history.data) return <Failure error={history.error} />
  const items = [...history.data].sort((a, b) => Date.parse(b.from) - Date.parse(a.from))
  const keyOf = (v: Version) => `${v.kind} ${v.operation} ${v.text} ${v.from} ${v.until}`
  const picked = items.filter((v) => chosen.includes(keyOf(v)))
  const state = (v: Version) =>
    Date.parse(v.from) > now() ? 'to come' : v.until && Date.parse(v.until) <= now() ? 'held' : 'holds'
  // A third choice takes the place of the first.
  const toggle = (key: string) =>
    setChosen(chosen.includes(key) ? chosen.filter((k) => k !== key) : [...chosen, key].slice(-2))
  return (
    <section className="mt-4">
      <RunOn title="What applied, and why" after={items.length} />
      {items.length > 1 && (
        <p className="small quiet mb-1">Choose two to compare them. A day under From shows the shelf as it was then.</p>
      )}
      {picked.length === 2 && <SideBySide older={picked[1]!} newer={picked[0]!} />}
      <div className="shelfscroll" tabIndex={0} role="region" aria-label="What applied">
        <table className="plain">
          <thead>
            <tr>
              {items.length > 1 && (
                <th>
                  <span className="visually-hidden">Compare</span>
                </th>
              )}
              <th>Laser and operation</th>
              <th>Ruling</th>
              <th>From</th>
              <th>Until</th>
              <th>By and why</th>
            </tr>
          </thead>
          <tbody>
            {items.map((v) => (
              <tr key={keyOf(v)}>
                {items.length > 1 && (
                  <td>
                    <Form.Check
                      aria-label={`Compare ${nameOf(kindNames, v.kind)}, ${v.operation}, from ${time.date(v.from)}: ${v.text}`}
                      checked={chosen.includes(keyOf(v))}
                      onChange={() => toggle(keyOf(v))}
                    />
                  </td>
                )}
                <td>
                  {nameOf(kindNames, v.kind)}, {v.operation}
                </td>
                <td>
                  {state(v) === 'holds' ? <b>{v.text}</b> : v.text}
                  {v.practice && <div className="small quiet">Where practice differs: {v.practice}</div>}
                </td>
                <td>
                  <Link to={`/materials?material=${id}&on=${time.iso(v.from)}`}>{time.date(v.from)}</Link>
                </td>
                <td>{v.until ? time.date(v.until) : state(v)}</td>
                <td>
                  {v.by ? `${v.by}: ${v.why ?? 'reason erased'}` : 'On the list from the start.'}
                  {v.reviewBy && state(v) === 'holds' && (
                    <div className="small quiet">Looked at again by {time.date(v.reviewBy)}.</div>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  )
}

function SideBySide({ older, newer }: { older: Version; newer: Version }) {
  const { time } = useSession()
  const cell = (v: Version) => `${nameOf(kindNames, v.kind)}, ${v.operation}`
  const rows: [string, (v: Version) => string][] = [
    ['Cell', cell],
    ['Ruling', (v) => v.text],
    ['Why', (v) => v.reasons.join(', ')],
    ['Hazard', (v) => v.hazard],
    ['At the machine', (v) => v.handling],
    ['Where practice differs', (v) => v.practice],
    ['Only filtering', (v) => (v.filteredNeedsArrangement ? 'asks for a steward' : 'makes no difference')],
    ['Set by', (v) => (v.by ? `${v.by}: ${v.why ?? 'reason erased'}` : 'on the list from the start')],
  ]
  const head = (v: Version) => `${time.date(v.from)} to ${v.until ? time.date(v.until) : 'now'}`
  return (
    <div className="shelfscroll mb-3" tabIndex={0} role="region" aria-label="Side by side">
      <table className={`plain ${rulingsCss.sidebyside}`}>
        <thead>
          <tr>
            <th>
              <span className="visually-hidden">What</span>
            </th>
            <th>{head(older)}</th>
            <th>{head(newer)}</th>
          </tr>
        </thead>
        <tbody>
          {rows.map(([name, say]) => {
            const [before, after] = [say(older), say(newer)]
            if (!before && !after) return null
            return (
              <tr key={name}>
                <th scope="row">{name}</th>
                {before === after ? (
                  <td colSpan={2} className="quiet">
                    {before}
                  </td>
                ) : (
                  <>
                    <td>{before || 'nothing'}</td>
                    <td>
                      <b>{after || 'nothing'}</b>
                    </td>
                  </>
                )}
              </tr>
            )
          })}
        </tbody>
      </table>
    </div>
  )
}
