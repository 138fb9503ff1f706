import type { Schemas } from '../kit/api'

/** What people go by without papers, and what it is worth: hints, never permissions. */
export function RulesOfThumb({ rules }: { rules: Schemas['RuleOfThumb'][] }) {
  return (
    <details className="mb-2">
      <summary>Rules of thumb, and what they are worth</summary>
      <dl className="thumbs">
        {rules.map((r) => (
          <div key={r.claim}>
            <dt>“{r.claim}”</dt>
            <dd>{r.answer}</dd>
          </div>
        ))}
      </dl>
    </details>
  )
}
