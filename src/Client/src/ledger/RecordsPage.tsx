import { useInfiniteQuery } from '@tanstack/react-query'
import { Fragment } from 'react'
import { Link } from 'react-router'
import { answer, client, type Schemas } from '../kit/api'
import { Failure, Loading, PageHead } from '../kit/parts'
import { useMachines, useSession } from '../kit/session'

/** The record as it is chained: numbers, codes and instants; the names stand beside it. */
export function RecordsPage() {
  const { time } = useSession()
  const record = useInfiniteQuery({
    queryKey: ['live', 'ledger'],
    queryFn: ({ pageParam, signal }) =>
      answer(client.GET('/api/ledger', { params: { query: { before: pageParam } }, signal })),
    initialPageParam: Number.MAX_SAFE_INTEGER,
    getNextPageParam: (page) => page.next ?? undefined,
  })
  const entries = record.data?.pages.flatMap((page) => page.items) ?? []
  const people = new Map(record.data?.pages.flatMap((page) => page.people.map((p) => [p.number, p] as const)) ?? [])
  return (
    <>
      <PageHead
        title="Records"
        sub="Newest first. Each entry is chained to the one before. “./vg verify-ledger” proves the whole."
      />
      {record.isPending && <Loading what="the record" />}
      <Failure error={record.error} retry={() => void record.refetch()} />
      {record.data && (
        <div className="shelfscroll mt-3" tabIndex={0} role="region" aria-label="The record">
          <table className="plain">
            <thead>
              <tr>
                <th className="r">No.</th>
                <th>When</th>
                <th>What</th>
                <th>Person, machine and times</th>
                <th>Hash</th>
              </tr>
            </thead>
            <tbody>
              {entries.map((entry) => (
                <tr key={entry.seq}>
                  <td className="r">{entry.seq}</td>
                  <td className="text-nowrap">
                    {time.date(entry.at)} {time.clock(entry.at)}
                  </td>
                  <td className="text-nowrap">
                    <b>{entry.words}</b>
                  </td>
                  <td>
                    <Body entry={entry} people={people} />
                  </td>
                  <td>
                    <code title={entry.hash}>{entry.hash.slice(0, 10)}</code>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
      {record.hasNextPage && (
        <button type="button" className="btn btn-outline-primary mt-3" onClick={() => void record.fetchNextPage()}>
          Earlier entries
        </button>
      )}
    </>
  )
}

const personKeys = ['person', 'by', 'releasedBy', 'returnedBy', 'trainer']

/**
 * The plain values of an entry; hashes and ids stay out of sight. The chain holds numbers; names stand beside it, while
 * somebody has one.
 */
function Body({ entry, people }: { entry: Schemas['EntryResponse']; people: Map<number, Schemas['NumberedPerson']> }) {
  const { time } = useSession()
  const machines = useMachines()
  const body = entry.body as Record<string, unknown>
  const shown = ['person', 'by', 'machine', 'authority', 'start', 'end', 'releasedBy', 'returnedBy', 'trainer'].filter(
    // Whoever did it for themselves is named once.
    (key) => body[key] !== undefined && body[key] !== null && !(key === 'by' && body.by === body.person),
  )
  return (
    <>
      {shown.map((key, i) => {
        const value = body[key]
        const who = personKeys.includes(key) && typeof value === 'number' ? people.get(value) : undefined
        const text = who?.name ? (
          <Link to={`/training?person=${who.id}`} title={`Person no. ${who.number} in the chain`}>
            {who.name}
          </Link>
        ) : typeof value === 'number' ? (
          `${who ? 'somebody erased, ' : ''}no. ${value}`
        ) : key === 'start' || key === 'end' ? (
          `${time.date(String(value))} ${time.clock(String(value))}`
        ) : key === 'machine' ? (
          <Link to="/machines">{machines.data?.find((m) => m.id === value)?.name ?? String(value)}</Link>
        ) : (
          String(value)
        )
        return (
          <Fragment key={key}>
            {i > 0 && ', '}
            <span className="quiet">{key.replace(/([A-Z])/g, ' $1').toLowerCase()}</span> {text}
          </Fragment>
        )
      })}
    </>
  )
}
