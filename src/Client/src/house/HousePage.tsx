import { useQuery } from '@tanstack/react-query'
import { NavLink, Navigate, useParams } from 'react-router'
import { Failure, Loading, PageHead, RunOn } from '../kit/parts'
import { hasRole, useSession } from '../kit/session'
import { CalendarPart } from './CalendarPart'
import { CommissioningPart } from './Commissioning'
import { sheetsOfHouseQuery } from './houseQueries'
import { FobsPart } from './FobsPart'
import { MachineSheets } from './MachineSheets'
import { PapersPart } from './PapersPart'
import { PeoplePart } from './PeoplePart'
import { RoomPart } from './RoomPart'
import { RulesPart } from './RulesPart'

const parts = [
  ['rules', 'Rules'],
  ['calendar', 'Calendar'],
  ['room', 'Room and kit'],
  ['machines', 'Machine forms'],
  ['commissioning', 'Commissioning'],
  ['papers', 'Inspector’s list'],
  ['people', 'People'],
  ['fobs', 'Fobs'],
] as const

/** What the house is: its rules, calendar, room, machines and people. Read by all, written by keepers. */
export function HousePage() {
  const { me, house } = useSession()
  const { part } = useParams()
  const sheets = useQuery(sheetsOfHouseQuery)
  const keeper = hasRole(me, 'keeper')
  const shown = parts.filter(([id]) =>
    id === 'people'
      ? keeper
      : id === 'papers'
        ? hasRole(me, 'keeper', 'steward', 'trainer')
        : id !== 'fobs' || hasRole(me, 'keeper', 'steward'),
  )
  if (!shown.some(([id]) => id === part)) return <Navigate to="/house/rules" replace />
  return (
    <>
      <PageHead
        title="House"
        sub={`${house.name}. ${keeper ? 'You are its keeper.' : 'A keeper looks after these pages.'}`}
      />
      <ul className="housenav" aria-label="Parts of the house">
        {shown.map(([id, name]) => (
          <li key={id}>
            <NavLink to={`/house/${id}`}>{name}</NavLink>
          </li>
        ))}
      </ul>
      {sheets.isPending && <Loading what="the house" />}
      <Failure error={sheets.error} retry={() => void sheets.refetch()} />
      {sheets.data && keeper && sheets.data.missing.length > 0 && <Missing items={sheets.data.missing} />}
      {part === 'rules' && <RulesPart />}
      {part === 'calendar' && <CalendarPart />}
      {part === 'room' && sheets.data && <RoomPart sheets={sheets.data} />}
      {part === 'machines' && sheets.data && <MachineSheets sheets={sheets.data} />}
      {part === 'commissioning' && <CommissioningPart />}
      {part === 'papers' && <PapersPart />}
      {part === 'people' && <PeoplePart />}
      {part === 'fobs' && <FobsPart />}
    </>
  )
}

/** What stands between this house and its first induction. */
function Missing({ items }: { items: string[] }) {
  return (
    <section aria-label="Still missing" className="sheetgroup">
      <RunOn title="Still missing" after={items.length} />
      <ol className="mt-2">
        {items.map((item) => (
          <li key={item}>{item}</li>
        ))}
      </ol>
    </section>
  )
}
