import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useDeferredValue } from 'react'
import Form from 'react-bootstrap/Form'
import { useSearchParams } from 'react-router'
import { answer, client, type Schemas } from '../kit/api'
import { Failure, fieldErrors, RunOn, TextField } from '../kit/parts'
import { Standing } from '../kit/Standing'
import { useUnit } from '../kit/units'
import { useDraft } from '../kit/useDraft'
import { Picture } from './Picture'
import css from './settings.module.css'

/** What the standing and the words below it say. */
const said = ['standing', 'refused', 'code']

/** One calculator: what is typed on the left, and at once its answer, picture and working. */
export function Calculator({ calculator: c }: { calculator: Schemas['CalculatorLine'] }) {
  const unit = useUnit()
  // A page that leads here brings what it knows.
  const [given] = useSearchParams()
  const { draft: typed, put } = useDraft<Record<string, string>>(
    Object.fromEntries(c.inputs.map((i) => [i.name, given.get(i.name) ?? ''])),
  )
  const asked = useDeferredValue(typed)
  const begun = Object.values(asked).some((text) => text.trim() !== '')
  const enough = c.inputs.filter((i) => i.needed).every((i) => asked[i.name]?.trim())
  const worked = useQuery({
    queryKey: ['calculator', c.name, unit, asked],
    queryFn: ({ signal }) =>
      answer(
        client.POST('/api/calculators/{calculator}', {
          params: { path: { calculator: c.name } },
          body: { values: asked, unit },
          signal,
        }),
      ),
    enabled: begun && enough,
    retry: false,
    staleTime: Infinity,
    placeholderData: keepPreviousData,
  })
  const errors = begun && enough ? fieldErrors(worked.error) : {}
  const found = begun && enough && !worked.error ? worked.data : undefined
  return (
    <section className={css.calculator} data-calculator={c.name}>
      <RunOn title={c.title} />
      <p>{c.for}</p>
      <div className={css.sum}>
        <div>
          {c.inputs.map((i) =>
            i.kind === 'tick' ? (
              <Form.Check
                key={i.name}
                id={`calc-${i.name}`}
                label={i.label}
                checked={typed[i.name] === 'yes'}
                onChange={(event) => put({ [i.name]: event.target.checked ? 'yes' : '' })}
              />
            ) : (
              <TextField
                key={i.name}
                id={`calc-${i.name}`}
                label={i.label + (i.unit ? `, ${i.unit}` : '') + (i.needed ? '' : ', if you like')}
                value={typed[i.name] ?? ''}
                put={(text) => put({ [i.name]: text })}
                placeholder={`such as ${i.example}`}
                error={errors[i.name]}
                maxLength={60}
              />
            ),
          )}
          <button
            type="button"
            className="quietlink"
            onClick={() => put(Object.fromEntries(c.inputs.map((i) => [i.name, i.kind === 'tick' ? '' : i.example])))}
          >
            Fill in an example
          </button>
        </div>
        <div aria-live="polite">
          {!found && Object.keys(errors).length === 0 && (
            <>
              <p className="quiet">Type on the left; the answer stands here.</p>
              {begun && enough && <Failure error={worked.error} retry={() => void worked.refetch()} />}
            </>
          )}
          {found && (
            <>
              <dl className={css.values}>
                {found.values
                  .filter((v) => !said.includes(v.name))
                  .map((v) => (
                    <div key={v.name} data-value={v.name}>
                      <dt>{v.label}</dt>
                      <dd>{v.shown}</dd>
                    </div>
                  ))}
              </dl>
              {found.standing && (
                <p>
                  <Standing standing={found.standing} />
                </p>
              )}
              {found.says.map((words) => (
                <p key={words}>{words}</p>
              ))}
              <Picture answer={found} />
              <h3>Working</h3>
              <ol className={css.working}>
                {found.working.map((step) => (
                  <li key={step}>{step}</li>
                ))}
              </ol>
              <p className="quiet">{c.source}</p>
            </>
          )}
        </div>
      </div>
    </section>
  )
}
