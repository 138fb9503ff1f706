import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import { Link } from 'react-router'
import { usePress } from '../kit/Act'
import { answer, client, type Schemas } from '../kit/api'
import { Failure, Loading, PageHead, RunOn } from '../kit/parts'
import { hasRole, useMachines, useSession } from '../kit/session'
import bookingsCss from './bookings.module.css'

type Feed = Schemas['FeedAnswer']

/** Machine time in a calendar elsewhere: each at a secret address. */
export function CalendarsPage() {
  const { me } = useSession()
  const machines = useMachines()
  const feeds = useQuery({
    queryKey: ['live', 'feeds'],
    queryFn: async ({ signal }) => (await answer(client.GET('/api/feeds', { signal }))).items,
  })
  const has = (kind: Feed['kind'], machineId?: string) =>
    feeds.data?.find((f) => f.kind === kind && (f.machineId ?? undefined) === machineId)
  return (
    <>
      <PageHead title="Calendars" sub="Your machine time in the calendar you use elsewhere">
        <Link to="/bookings">Bookings</Link>
      </PageHead>
      {(feeds.isPending || machines.isPending) && <Loading what="your calendars" />}
      <Failure error={feeds.error ?? machines.error} retry={() => void feeds.refetch()} />
      {feeds.data && machines.data && (
        <section className="mt-3">
          <RunOn title="Addresses" after={feeds.data.length} />
          <p className="small quiet mt-2">
            Subscribe to an address (iCalendar) and changes arrive by themselves; the screen on the wall is a page to
            open. Whoever has the address reads it without signing in: give it to nobody, and renew it if somebody has
            it. It is shown once.
          </p>
          <ul className={bookingsCss.feeds}>
            <Line kind="mine" title="My bookings, classes and duties" feed={has('mine')} />
            <Line kind="rota" title="Stewards on duty, classes and closures" feed={has('rota')} />
            <Line kind="upkeep" title="What of upkeep is due on which day" feed={has('upkeep')} />
            {hasRole(me, 'steward', 'trainer', 'keeper') && (
              <Line
                kind="wall"
                title="A screen on the wall: the room today, nobody under age named"
                feed={has('wall')}
              />
            )}
            {machines.data.map((m) => (
              <Line
                key={m.id}
                kind="machine"
                machineId={m.id}
                title={`${m.name}, without names`}
                feed={has('machine', m.id)}
              />
            ))}
          </ul>
        </section>
      )}
    </>
  )
}

function Line({
  kind,
  machineId,
  title,
  feed,
}: {
  kind: Feed['kind']
  machineId?: string
  title: string
  feed?: Feed
}) {
  const { time } = useSession()
  const [url, setUrl] = useState('')
  const [copied, setCopied] = useState(false)
  const make = usePress(async () => {
    setCopied(false)
    setUrl((await answer(client.POST('/api/feeds', { body: { kind, machineId } }))).url)
  })
  const withdraw = usePress(async () => {
    await answer(client.DELETE('/api/feeds/{id}', { params: { path: { id: feed!.id } } }))
    setUrl('')
  })
  const id = `feed-${kind}-${machineId ?? ''}`
  return (
    <li data-feed={machineId ?? kind}>
      <span>
        <b>{title}</b>{' '}
        <span className="quiet">
          {feed
            ? `since ${time.moment(feed.madeAt)}, ${feed.readAt ? `read ${time.moment(feed.readAt)}` : 'not read yet'}`
            : 'no address'}
        </span>
      </span>
      <span className={bookingsCss.jobacts}>
        <Button
          size="sm"
          variant="outline-primary"
          aria-describedby={id}
          onClick={() => make.mutate()}
          disabled={make.isPending}
        >
          {feed ? 'Renew it' : 'Make an address'}
        </Button>{' '}
        {feed && (
          <button type="button" className="quietlink" onClick={() => withdraw.mutate()} disabled={withdraw.isPending}>
            Withdraw
          </button>
        )}
        <span id={id} className="visually-hidden">
          {title}
        </span>
      </span>
      {url && feed && (
        <span className={bookingsCss.address} role="status">
          <input
            className="form-control"
            aria-label={`Address of ${title}`}
            readOnly
            value={url}
            onFocus={(e) => e.target.select()}
          />
          <Button size="sm" onClick={() => void navigator.clipboard.writeText(url).then(() => setCopied(true))}>
            {copied ? 'Copied' : 'Copy'}
          </Button>
          <span className="quiet small">Shown once. Any older address of this calendar reads no more.</span>
        </span>
      )}
      <Failure error={make.error ?? withdraw.error} />
    </li>
  )
}
