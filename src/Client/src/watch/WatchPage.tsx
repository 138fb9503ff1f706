import { usePress } from '../kit/Act'
import { useQuery } from '@tanstack/react-query'
import { Link, useNavigate } from 'react-router'
import { answer, client, type Schemas } from '../kit/api'
import { Empty, Failure, Loading, PageHead, RunOn, Urgency } from '../kit/parts'
import { hasRole, useSession } from '../kit/session'
import { Strips } from './Strips'
import { askAddress } from '../gate'
import { Messages } from './Messages'
import { asksQuery, useWatch } from './watchQuery'
import watchCss from './watch.module.css'

/** The steward's day: who is on, what comes next, what needs a hand. */
export function WatchPage() {
  const { me, house, time } = useSession()
  const watch = useWatch()
  const open = watch.data?.opens
    ? `open ${time.clock(watch.data.opens)} to ${time.clock(watch.data.closes!)}`
    : 'closed today'
  return (
    <>
      <PageHead title="Watch" sub={watch.data ? `${watch.data.label}, ${house.name}, ${open}` : ' '} />
      {watch.isPending && <Loading what="the day" />}
      <Failure error={watch.error} retry={() => void watch.refetch()} />
      {watch.data && (
        <>
          <Messages />
          <Strips watch={watch.data} />
          <div className={`two ${watchCss.watchlower}`}>
            <Needs needs={watch.data.needs} mine={!hasRole(me, 'steward', 'trainer')} />
            <Key />
          </div>
        </>
      )}
    </>
  )
}

/** What the server could not do by itself: somebody has looked at it. */
function Parked({ subject }: { subject: string }) {
  const done = usePress(() => answer(client.POST('/api/parked/{subject}/done', { params: { path: { subject } } })))
  return (
    <button type="button" className="btn btn-link btn-sm p-0" disabled={done.isPending} onClick={() => done.mutate()}>
      I have looked
    </button>
  )
}

const titles: Record<Schemas['Need']['kind'], string> = {
  machineStopped: 'See the machine',
  askWaiting: 'See the question',
  bookingAtRisk: 'See the bookings',
  certificateLapsing: 'See the person',
  noShow: 'Release it',
  foundingUnconfirmed: 'See the evidence',
  kitEnding: 'See the kit',
  rulingProposed: 'See the proposal',
  rulingReview: 'Review it',
  rulingRequested: 'Answer it',
  appealWaiting: 'Hear it',
  certificateReview: 'See them',
  runToLook: 'Look at it',
  workParked: 'I have looked',
  mailUndelivered: 'See the person',
  roomShort: 'See the rules',
  upkeepOverdue: 'See what is due',
  faultOpen: 'See the faults',
  kitWrong: 'See the round',
  consumableLow: 'See the stock',
  paperDue: 'See the papers',
  incidentOpen: 'See the incident',
  fireWatchRunning: 'Make the look',
  incidentActionLate: 'See the incident',
  lookAsked: 'I have looked',
  roomShut: 'See the incident',
  fixtureOverdue: 'See the fixtures',
  fixtureDamaged: 'See the fixtures',
}

function Needs({ needs, mine }: { needs: Schemas['Need'][]; mine: boolean }) {
  const { time, now } = useSession()
  const navigate = useNavigate()
  const asks = useQuery(asksQuery)
  // A line for many more leads to where they all stand.
  const person = (need: Schemas['Need']) => (need.subject ? `/training?person=${need.subject}` : '/training')
  const links: Record<Schemas['Need']['kind'], (need: Schemas['Need']) => string> = {
    machineStopped: () => '/machines',
    askWaiting: (need) => askAddress(asks.data?.find((a) => a.id === need.subject)?.ask, need.subject),
    bookingAtRisk: () => '/bookings',
    certificateLapsing: (need) => person(need),
    noShow: () => '/bookings',
    foundingUnconfirmed: () => '/training',
    kitEnding: () => '/house/room',
    rulingProposed: (need) => (need.subject ? `/materials/${need.subject}` : '/materials'),
    rulingRequested: () => '/materials/requests',
    appealWaiting: (need) => (need.subject ? `/training/conduct/${need.subject}` : '/training'),
    certificateReview: () => '/training/review',
    runToLook: () => '/bookings#runs',
    workParked: () => '/records',
    roomShort: () => '/house/rules',
    upkeepOverdue: () => '/upkeep',
    faultOpen: () => '/upkeep',
    kitWrong: () => '/upkeep/round',
    consumableLow: () => '/upkeep/stock',
    paperDue: () => '/house/papers',
    incidentOpen: (need) => `/incidents/${need.subject}`,
    fireWatchRunning: (need) => `/incidents/${need.subject}`,
    incidentActionLate: (need) => `/incidents/${need.subject}`,
    lookAsked: () => '/incidents',
    fixtureOverdue: () => '/bookings/fixtures',
    fixtureDamaged: () => '/bookings/fixtures',
    roomShut: (need) => `/incidents/${need.subject}`,
    mailUndelivered: (need) => person(need),
    rulingReview: (need) => `/materials/${need.subject}`,
  }
  const by = (need: Schemas['Need']) => {
    if (!need.by) return 'Now'
    const at = need.kind === 'certificateLapsing' ? Date.parse(need.by) - 1 : Date.parse(need.by)
    const word = at < now() ? 'since' : 'by'
    return time.iso(at) === time.iso(now())
      ? need.kind === 'certificateLapsing'
        ? 'by close'
        : `${word} ${time.clock(at)}`
      : `${word} ${time.day(at)}`
  }
  return (
    <section>
      <RunOn
        title={mine ? 'Yours' : 'Needs a hand'}
        after={needs.length > 1 ? `${needs.length}, most pressing first` : needs.length}
      />
      {needs.length === 0 ? (
        <Empty
          title="Nothing needs a hand"
          action={{ text: 'See what is booked', onClick: () => void navigate('/bookings') }}
        >
          {mine
            ? 'Your requests and lapsing certificates will show here.'
            : 'Stopped machines, waiting requests and lapsing certificates will show here.'}
        </Empty>
      ) : (
        <ul className={watchCss.needs}>
          {needs.map((need) => (
            <li key={`${need.kind} ${need.subject} ${need.text}`}>
              <Urgency of={need.urgency} />
              <b className="by">{by(need)}</b>
              <span className={watchCss.kind}>{need.title}</span>
              <span className={watchCss.what}>{need.text}</span>
              {need.kind === 'workParked' && need.subject ? (
                <Parked subject={need.subject} />
              ) : (
                <Link to={links[need.kind](need)}>{titles[need.kind]}</Link>
              )}
            </li>
          ))}
        </ul>
      )}
    </section>
  )
}

function Key() {
  return (
    <aside>
      <RunOn title="How to read the strips" />
      <div className={watchCss.key}>
        <span>
          <i className="tx tx-checks" /> checks
        </span>
        <span>
          <i className="tx tx-lead" /> extraction lead
        </span>
        <span>
          <i className="tx tx-setup" /> test piece
        </span>
        <span>
          <i className="tx tx-run" /> run
        </span>
        <span>
          <i className="tx tx-clear" /> air clearing
        </span>
        <span>
          <i className="tx tx-clean" /> clean-down
        </span>
      </div>
      <p className="small quiet mt-2">
        Before the run is lines, after it dots. A taut rope closes the machine for those hours.
      </p>
    </aside>
  )
}
