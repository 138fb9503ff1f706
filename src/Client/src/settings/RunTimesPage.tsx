import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import Button from 'react-bootstrap/Button'
import { Link, useParams } from 'react-router'
import { answer, client, type Schemas } from '../kit/api'
import { Failure, Loading, PageHead } from '../kit/parts'
import { useMachines } from '../kit/session'
import css from './settings.module.css'

type Comparison = Schemas['TimeComparison']

const percent = (part: number) => `${Math.round(part * 100)} %`
const times = (factor: number) => `× ${factor.toFixed(2)}`

/** How long runs really took on a machine, beside what was estimated; a steward accepts the correction. */
export function RunTimesPage() {
  const id = useParams()['id'] ?? ''
  const machines = useMachines()
  const queries = useQueryClient()
  const compared = useQuery({
    queryKey: ['live', 'run-times', id],
    queryFn: ({ signal }) => answer(client.GET('/api/machines/{id}/run-times', { params: { path: { id } }, signal })),
  })
  const accept = useMutation({
    mutationFn: (wanted: { operation: string; factor: number | null }) =>
      answer(client.POST('/api/machines/{id}/run-times', { params: { path: { id } }, body: wanted })),
    onSettled: () => queries.invalidateQueries({ queryKey: ['live', 'run-times', id] }),
  })
  const data = compared.data
  return (
    <>
      <PageHead
        title={data ? `Run times on ${data.machineName}` : 'Run times'}
        sub="Runs as they were logged, beside the estimates of their drawings"
      >
        {machines.data
          ?.filter((m) => m.id !== id)
          .map((m) => (
            <Link key={m.id} to={`/machines/${m.id}/run-times`}>
              {m.name}
            </Link>
          ))}
        <Link to="/machines">Machines</Link>
      </PageHead>
      {compared.isPending && <Loading what="the run times" />}
      <Failure error={compared.error} retry={() => void compared.refetch()} />
      {data && (
        <>
          <table className={`plain ${css.times}`}>
            <thead>
              <tr>
                <th>Operation</th>
                <th className="r">Runs</th>
                <th className="r">Took, of the estimate</th>
                <th>Estimates now</th>
                <th>With the correction</th>
                <th />
              </tr>
            </thead>
            <tbody>
              {data.operations.map((o) => (
                <Row
                  key={o.operation}
                  of={o}
                  accept={data.mayAccept ? (factor) => accept.mutate({ operation: o.operation, factor }) : undefined}
                  busy={accept.isPending}
                />
              ))}
            </tbody>
          </table>
          <Failure error={accept.error} />
          <p className="small quiet">
            The middle of at least {data.fewestRuns} logged runs of bookings with a drawing counts, each for the
            operation that takes nearly all of it. A run that was given up, or in which a flame stayed, says nothing.
            {!data.mayAccept && ' A steward accepts a correction.'}
          </p>
        </>
      )}
    </>
  )
}

function Row({ of, accept, busy }: { of: Comparison; accept?: (factor: number | null) => void; busy: boolean }) {
  const { now, proposed } = of
  const news = proposed && proposed.factor !== now?.factor
  return (
    <tr>
      <td>{of.operation}</td>
      <td className="r">{of.runs}</td>
      <td className="r">{of.ratio == null ? '–' : percent(of.ratio)}</td>
      <td>
        {now ? `${times(now.factor)}, from ${now.runs} runs` : 'as they are'}
        {of.errorNow != null && `; off by ${percent(of.errorNow)}`}
      </td>
      <td>
        {proposed
          ? news
            ? `${times(proposed.factor)}; off by ${percent(of.errorThen ?? 0)}`
            : 'nothing to correct'
          : of.whyNot}
      </td>
      <td>
        {accept && news && (
          <Button size="sm" disabled={busy} onClick={() => accept(proposed.factor)}>
            Accept {times(proposed.factor)}
          </Button>
        )}
        {accept && now && (
          <Button size="sm" variant="link" disabled={busy} onClick={() => accept(null)}>
            Take the correction away
          </Button>
        )}
      </td>
    </tr>
  )
}
