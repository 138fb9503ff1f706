import { useQuery } from '@tanstack/react-query'
import { Link } from 'react-router'
import { Failure } from '../kit/parts'
import { useSession } from '../kit/session'
import { machineUpkeepQuery } from '../upkeep'
import machinesCss from './machines.module.css'

/** What is due on one machine, and the next that will be. */
export function Upkeep({ machineId }: { machineId: string }) {
  const { time } = useSession()
  const tasks = useQuery(machineUpkeepQuery(machineId))
  if (tasks.isError) return <Failure error={tasks.error} retry={() => void tasks.refetch()} />
  const due = tasks.data?.filter((t) => t.due) ?? []
  const next = tasks.data?.find((t) => !t.due && t.forecast)
  if (due.length === 0 && !next) return null
  return (
    <ul className={machinesCss.upkeep} aria-label="Upkeep">
      {due.map((t) => (
        <li key={t.id}>
          {t.name}: <b>{t.overdue ? 'overdue' : 'due'}</b>
          {t.dueSince && ` since ${time.day(t.dueSince)}`}
        </li>
      ))}
      {next?.forecast && (
        <li>
          Next: {next.name}, {time.day(next.forecast)}
        </li>
      )}
      <li>
        <Link to="/upkeep" className="d-inline-block py-1">
          See upkeep
        </Link>
      </li>
    </ul>
  )
}
