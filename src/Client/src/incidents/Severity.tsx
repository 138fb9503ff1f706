import { useQuery } from '@tanstack/react-query'
import { choicesQuery } from './incidentQueries'
import css from './incidents.module.css'

/** How bad it was, from 1 to 5: one row on a wide screen, one below the other on a phone. */
export function Severity({
  value,
  put,
  error,
  disabled,
}: {
  value: number | null
  put: (value: number) => void
  error?: string[]
  disabled?: boolean
}) {
  const choices = useQuery(choicesQuery)
  return (
    <fieldset className={css.severities} disabled={disabled}>
      <legend className="form-label">Severity</legend>
      {choices.data?.severities.map(({ severity: n, words }) => (
        <label key={n} data-severity={n}>
          <input type="radio" name="severity" checked={value === n} onChange={() => put(n)} />
          <span>
            <b>{n}</b> {words}
          </span>
        </label>
      ))}
      {error && (
        <div className="invalid-feedback" role="alert">
          {error.join(' ')}
        </div>
      )}
    </fieldset>
  )
}
