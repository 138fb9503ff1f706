import { useQuery } from '@tanstack/react-query'
import { Link } from 'react-router'
import type { Schemas } from '../kit/api'
import { Ticket } from '../kit/parts'
import { hasRole, useSession } from '../kit/session'
import { Standing } from '../kit/Standing'
import { HoldActs } from './HoldActs'
import { OutsidePapers } from './OutsidePapers'
import { PaperForm } from './PaperForm'
import { Pause, Release } from '../people'
import { SignOff } from './SignOff'
import { holdsQuery, pathsQuery, practicalsQuery } from './trainingQueries'

type PersonAnswer = Schemas['PersonResponse']

/** One person: what they hold, and what you may do about it. */
export function PersonCard({ person }: { person: PersonAnswer }) {
  const { me, time } = useSession()
  const paths = useQuery(pathsQuery)
  const staff = hasRole(me, 'steward', 'trainer', 'keeper')
  const steward = hasRole(me, 'steward')
  const trains = me.roles.filter((r) => r.startsWith('trainer:')).map((r) => r.slice(8))
  const holds = useQuery({ ...holdsQuery(person.id), enabled: person.me || staff })
  const name = (authority: string) => paths.data?.items.find((p) => p.authority === authority)?.name ?? authority
  return (
    <Ticket label={person.name}>
      <h2>{person.name}</h2>
      {person.roles && <p className="small quiet">{person.roles.map((r) => r.replace(':', ' on ')).join(', ')}</p>}
      {person.pause && (
        <p>
          <Standing standing="shut" word={`Paused since ${time.day(person.pause.since)}`} />
          <br />
          {person.pause.reason}
        </p>
      )}
      {person.certificates &&
        (person.certificates.length === 0 ? (
          <p>No certificate yet.</p>
        ) : (
          <ul className="plainlist">
            {person.certificates.map((c) => (
              <li key={c.authority}>
                <b>{name(c.authority)}</b> {c.until ? `to ${time.date(Date.parse(c.until) - 1)}` : 'no last day'}
                <br />
                <a href={`/api/certificates/${c.id}/certificate.pdf`} className="small">
                  On paper
                </a>{' '}
                <a href={`/api/certificates/${c.id}/card.pdf`} className="small">
                  Card for the wallet
                </a>
              </li>
            ))}
          </ul>
        ))}
      {holds.data?.map((h) => (
        <HoldActs key={h.id} hold={h} steward={steward && !person.me} />
      ))}
      {(person.me || staff) && (
        <p>
          <Link to={person.me ? '/training/ladder' : `/training/ladder?person=${person.id}`}>
            Which steps are done, and what comes next
          </Link>
        </p>
      )}
      {trains.length > 0 && !person.me && paths.data && (
        <SignOff person={person} paths={paths.data.items.filter((p) => trains.includes(p.authority.split('/')[0]!))} />
      )}
      {(person.me || staff) && <Practicals person={person.id} />}
      {(person.me || staff) && <OutsidePapers person={person} steward={steward && !person.me} />}
      {steward && !person.me && paths.data && (
        <>
          <PaperForm person={person} paths={paths.data.items} />
          <HoldActs.Begin person={person} name={name} />
          <p className="mt-2 mb-1">
            <Link to={`/training/conduct/${person.id}`}>Conduct and appeals</Link>
          </p>
          {person.pause ? <Release pause={person.pause.id} /> : <Pause person={person} />}
        </>
      )}
    </Ticket>
  )
}

const outcomes: Record<string, string> = {
  signed: 'signed',
  repeat: 'to be repeated',
  notSigned: 'not signed',
  dropped: 'left without a verdict',
}

function Practicals({ person }: { person: string }) {
  const { time } = useSession()
  const practicals = useQuery(practicalsQuery(person))
  if (!practicals.data?.length) return null
  return (
    <>
      <h3>Practicals</h3>
      <ul className="plainlist">
        {practicals.data.map((p) => (
          <li key={p.id}>
            <Link to={`/training/practical/${p.id}`}>{p.authorityName}</Link>, {time.day(p.started)}:{' '}
            {p.outcome ? outcomes[p.outcome] : <b>open</b>}
          </li>
        ))}
      </ul>
    </>
  )
}
