import { useQuery } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import Button from 'react-bootstrap/Button'
import { Link, useLocation } from 'react-router'
import { Act, useAction } from '../kit/Act'
import { answer, client, type Schemas } from '../kit/api'
import { Choices } from '../kit/Choices'
import { Empty, Failure, fieldErrors, Loading, PageHead, TextField, Urgency } from '../kit/parts'
import { hasRole, useSession } from '../kit/session'
import { numberOf } from './numbers'
import { roundQuery } from './upkeepQueries'
import css from './upkeep.module.css'

type Item = Schemas['KitItemResponse']

const wrongs = [
  ['missing', 'not there'],
  ['seal', 'seal or pin broken'],
  ['date', 'out of date'],
  ['damaged', 'damaged'],
] as const
type Wrong = (typeof wrongs)[number][0]

const keyOf = (item: Item) => `${item.eyewear ? 'eyewear' : 'kit'}-${item.id}`

/** The round of fire kit and eyewear, item by item, with a phone in the hand. */
export function RoundPage() {
  const { me } = useSession()
  const round = useQuery(roundQuery)
  const { hash } = useLocation()
  const [done, setDone] = useState(false)
  const items = round.data?.items ?? []
  const due = items.filter((i) => i.due || i.wrong).length
  const shown = items.length > 0 ? hash : ''
  useEffect(() => {
    if (shown) document.getElementById(shown.slice(1))?.scrollIntoView({ block: 'center' })
  }, [shown])
  return (
    <>
      <PageHead title="Round" sub="Fire kit and eyewear: go to each, look, and say what you found">
        <Link to="/upkeep">Upkeep</Link>
        {hasRole(me, 'steward') && <a href="/api/upkeep/round/codes.pdf">Codes to hang beside them (PDF)</a>}
      </PageHead>
      {round.isPending && <Loading what="the round" />}
      <Failure error={round.error} retry={() => void round.refetch()} />
      {round.data && items.length === 0 && (
        <Empty title="No fire kit is listed">A keeper lists it under House, Room and kit.</Empty>
      )}
      {round.data && items.length > 0 && (
        <>
          <p className="mt-3" role="status">
            <b>
              {done && due === 0
                ? 'The round is whole: its task is done.'
                : due === 0
                  ? 'Nothing is due.'
                  : `${due} of ${items.length} to look at.`}
            </b>{' '}
            Each is due again after {round.data.days} days. The firm that services extinguishers comes apart from this.
          </p>
          <ul className={css.round}>
            {items.map((item) => (
              <li
                key={keyOf(item)}
                id={keyOf(item)}
                className={hash === `#${keyOf(item)}` ? css.here : undefined}
                data-item={keyOf(item)}
              >
                <OneItem item={item} mayLook={round.data.mayLook} whole={() => setDone(true)} />
              </li>
            ))}
          </ul>
          {!round.data.mayLook && <p className="quiet">Trainers, stewards and repairers make the round.</p>}
        </>
      )}
    </>
  )
}

function OneItem({ item, mayLook, whole }: { item: Item; mayLook: boolean; whole: () => void }) {
  const { time } = useSession()
  const [open, setOpen] = useState(false)
  const looked = (made: Schemas['LookedResponse'] | undefined) => {
    setOpen(false)
    if (made?.roundDone) whole()
  }
  const right = useAction(
    () =>
      item.eyewear
        ? answer(
            client.POST('/api/upkeep/round/eyewear/{id}', { params: { path: { id: item.id } }, body: { damaged: 0 } }),
          )
        : answer(
            client.POST('/api/upkeep/round/kit/{id}', { params: { path: { id: item.id } }, body: { inOrder: true } }),
          ),
    looked,
  )
  return (
    <>
      <h2>
        <Urgency of={item.wrong ? 4 : item.due ? 3 : 1} /> {item.name}
        {item.count != null && `, ${item.count} ${item.count === 1 ? 'pair' : 'pairs'}`}
      </h2>
      {item.wrong && (
        <p>
          <b>Found {item.wrong}: nothing runs until it is right.</b>
        </p>
      )}
      <p className="small quiet">
        {item.lookedAt ? `Looked at ${time.day(item.lookedAt)} by ${item.lookedBy}. ` : 'Nobody has looked yet. '}
        {item.lastDay && `In date to ${time.date(`${item.lastDay}T12:00:00Z`)}. `}
        {item.note}
      </p>
      {mayLook && !open && (
        <div className={css.taps}>
          <Button disabled={right.isPending} onClick={() => right.mutate()}>
            {item.eyewear ? 'All whole' : 'In order'}
            <span className="visually-hidden">: {item.name}</span>
          </Button>
          <Button variant="outline-primary" onClick={() => setOpen(true)}>
            {item.eyewear ? 'Some are damaged' : 'Something is wrong'}
            <span className="visually-hidden">: {item.name}</span>
          </Button>
        </div>
      )}
      <Failure error={right.error} />
      {open && (item.eyewear ? <Damaged item={item} done={looked} /> : <NotRight item={item} done={looked} />)}
    </>
  )
}

type Done = { item: Item; done: (made: Schemas['LookedResponse'] | undefined) => void }

function NotRight({ item, done }: Done) {
  const [wrong, setWrong] = useState<Wrong[]>([])
  const [note, setNote] = useState('')
  const act = useAction(
    () =>
      answer(
        client.POST('/api/upkeep/round/kit/{id}', {
          params: { path: { id: item.id } },
          body: { wrong, note: note || null },
        }),
      ),
    done,
  )
  const errors = fieldErrors(act.error)
  return (
    <Act act={act} button="It is not in order" danger fields={['wrong', 'note']}>
      <Choices
        id={`wrong-${item.id}`}
        label="What is wrong"
        options={wrongs}
        chosen={wrong}
        put={setWrong}
        error={errors.wrong}
      />
      <TextField
        id={`wrong-note-${item.id}`}
        label="In a few words (may stay empty)"
        error={errors.note}
        value={note}
        put={setNote}
      />
      <p className="small quiet">Until somebody finds it right, the gate is shut for the whole room.</p>
    </Act>
  )
}

function Damaged({ item, done }: Done) {
  const [damaged, setDamaged] = useState('')
  const [note, setNote] = useState('')
  const act = useAction(
    () =>
      answer(
        client.POST('/api/upkeep/round/eyewear/{id}', {
          params: { path: { id: item.id } },
          body: { damaged: numberOf(damaged), note: note || null },
        }),
      ),
    done,
  )
  const errors = fieldErrors(act.error)
  return (
    <Act act={act} button="Take them away" danger fields={['damaged', 'note']}>
      <TextField
        id={`damaged-${item.id}`}
        label="Pairs scratched, bleached or cracked"
        inputMode="numeric"
        error={errors.damaged}
        value={damaged}
        put={setDamaged}
      />
      <TextField
        id={`damaged-note-${item.id}`}
        label="In a few words (may stay empty)"
        error={errors.note}
        value={note}
        put={setNote}
      />
      <p className="small quiet">They count no more from now on: cut the band before they go into the bin.</p>
    </Act>
  )
}
