import { useQuery } from '@tanstack/react-query'
import Button from 'react-bootstrap/Button'
import { usePress } from '../kit/Act'
import { answer, client, type Schemas } from '../kit/api'
import { Failure, RunOn } from '../kit/parts'
import { useMachines, useSession } from '../kit/session'
import bookingsCss from './bookings.module.css'

type Waits = Schemas['WaitingAnswer']

/** What is kept for you, what others would swap with you, and what you wait for. */
export function Waiting() {
  const waiting = useQuery({
    queryKey: ['live', 'waiting'],
    queryFn: async ({ signal }) => (await answer(client.GET('/api/waiting', { signal }))).items,
    refetchInterval: 30_000,
  })
  const swaps = useQuery({
    queryKey: ['live', 'swaps'],
    queryFn: async ({ signal }) => (await answer(client.GET('/api/swaps', { signal }))).items,
  })
  const waits = waiting.data ?? []
  const asked = swaps.data ?? []
  if (waits.length + asked.length === 0) return <Failure error={waiting.error ?? swaps.error} />
  return (
    <section className="mt-3">
      <RunOn title="Kept for you, and what you wait for" after={waits.length + asked.length} />
      <ul className={bookingsCss.waits}>
        {asked.map((s) => (
          <Swap key={s.bookingId} swap={s} />
        ))}
        {waits.map((w) => (
          <Wait key={w.id} wait={w} />
        ))}
      </ul>
    </section>
  )
}

function Wait({ wait }: { wait: Waits }) {
  const { time } = useSession()
  const machines = useMachines()
  const name = (id: string) => machines.data?.find((m) => m.id === id)?.name ?? id
  const take = usePress(() =>
    answer(client.POST('/api/offers/{id}/take', { params: { path: { id: wait.offer!.id } } })),
  )
  const decline = usePress(() =>
    answer(client.POST('/api/offers/{id}/decline', { params: { path: { id: wait.offer!.id } } })),
  )
  const stop = usePress(() => answer(client.DELETE('/api/waiting/{id}', { params: { path: { id: wait.id } } })))
  const busy = take.isPending || decline.isPending || stop.isPending
  return (
    <li data-waiting={wait.id} className={wait.offer ? bookingsCss.offered : ''}>
      {wait.offer ? (
        <span>
          <b>
            {name(wait.offer.machineId)}, {time.moment(wait.offer.start)} to {time.clock(wait.offer.end)}
          </b>{' '}
          is kept for you until {time.moment(wait.offer.until)}. Then it goes to the next.
        </span>
      ) : (
        <span>
          You wait for a time between {time.moment(wait.from)} and {time.moment(wait.to)} on{' '}
          {wait.machineIds.map(name).join(', ')}.
        </span>
      )}
      <span className={bookingsCss.jobacts}>
        {wait.offer && (
          <>
            <Button size="sm" onClick={() => take.mutate()} disabled={busy}>
              Take it
            </Button>{' '}
            <button type="button" className="quietlink" onClick={() => decline.mutate()} disabled={busy}>
              Let it go
            </button>{' '}
          </>
        )}
        <button type="button" className="quietlink" onClick={() => stop.mutate()} disabled={busy}>
          Wait no more
        </button>
      </span>
      <Failure error={take.error ?? decline.error ?? stop.error} />
    </li>
  )
}

function Swap({ swap }: { swap: Schemas['SwapAsked'] }) {
  const { time } = useSession()
  const machines = useMachines()
  const agree = usePress(() =>
    answer(client.POST('/api/bookings/{id}/swap/agree', { params: { path: { id: swap.bookingId } } })),
  )
  return (
    <li data-swap={swap.bookingId} className={bookingsCss.offered}>
      <span>
        Somebody would swap with your booking {swap.number}: you would have{' '}
        <b>
          {machines.data?.find((m) => m.id === swap.machineId)?.name ?? swap.machineId}, {time.moment(swap.start)}
        </b>
        . Nothing changes unless you agree, until {time.moment(swap.until)}.
      </span>
      <span className={bookingsCss.jobacts}>
        <Button size="sm" onClick={() => agree.mutate()} disabled={agree.isPending}>
          Agree
        </Button>
      </span>
      <Failure error={agree.error} />
    </li>
  )
}
