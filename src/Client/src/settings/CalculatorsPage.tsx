import { queryOptions, useQuery } from '@tanstack/react-query'
import { NavLink, useParams } from 'react-router'
import { answer, client } from '../kit/api'
import { Empty, Failure, Loading, PageHead } from '../kit/parts'
import { Calculator } from './Calculator'
import css from './settings.module.css'

const calculatorsQuery = queryOptions({
  queryKey: ['calculators'],
  queryFn: ({ signal }) => answer(client.GET('/api/calculators', { signal })),
  staleTime: Infinity,
})

/** Sums of the trade, each with its picture and its working. Nothing is stored. */
export function CalculatorsPage() {
  const { name } = useParams()
  const all = useQuery(calculatorsQuery)
  const chosen = name ? all.data?.find((c) => c.name === name) : all.data?.[0]
  return (
    <>
      <PageHead title="Calculators" sub="Any unit: 3 mm, 1/8 in, 15 in/min. Nothing is stored." />
      {all.isPending && <Loading what="the calculators" />}
      <Failure error={all.error} retry={() => void all.refetch()} />
      {all.data && (
        <div className={css.calculators}>
          <nav aria-label="Calculators">
            {all.data.map((c) => (
              <NavLink
                key={c.name}
                to={`/materials/calculators/${c.name}`}
                className={css.choice}
                data-on={c === chosen}
              >
                <b>{c.title}</b>
                <span>{c.for}</span>
              </NavLink>
            ))}
          </nav>
          {chosen ? (
            <Calculator key={chosen.name} calculator={chosen} />
          ) : (
            <Empty title="There is no such calculator">Choose one of the list.</Empty>
          )}
        </div>
      )}
    </>
  )
}
