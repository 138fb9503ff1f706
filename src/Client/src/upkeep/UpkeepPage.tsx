import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import { Link } from 'react-router'
import { useAction } from '../kit/Act'
import { answer, client } from '../kit/api'
import { Empty, Failure, Loading, PageHead, RunOn } from '../kit/parts'
import { hasRole, useMachines, useSession } from '../kit/session'
import { AfterBreak } from './AfterBreak'
import { Board } from './Board'
import { Faults } from './Faults'
import { PlanForm } from './PlanForm'
import { Readings } from './Readings'
import { Report } from './Report'
import { Trends } from './Trends'
import { upkeepQuery } from './upkeepQueries'
import css from './upkeep.module.css'

/** What is due, what is wrong, and what was read. */
export function UpkeepPage() {
  const { me } = useSession()
  const upkeep = useQuery(upkeepQuery)
  const machines = useMachines()
  const [adding, setAdding] = useState(false)
  const items = upkeep.data?.items ?? []
  const overdue = items.filter((t) => t.overdue).length
  const steward = hasRole(me, 'steward')
  return (
    <>
      <PageHead title="Upkeep" sub="What is due, what is wrong, and who puts it right">
        <Link to="/upkeep/round">Round</Link>
        <Link to="/upkeep/stock">Stock</Link>
        <Link to="/bookings/calendars">In my calendar</Link>
        {steward && !adding && (
          <Button variant="outline-primary" onClick={() => setAdding(true)}>
            Add a task
          </Button>
        )}
      </PageHead>
      {adding && (
        <section className={css.sheet}>
          <RunOn title="A task" />
          <PlanForm close={() => setAdding(false)} />
        </section>
      )}
      <div className={css.columns}>
        <section>
          <RunOn title="What is due" after={overdue > 0 ? `${overdue} overdue, then by date` : 'by date'} />
          {upkeep.isPending && <Loading what="the tasks" />}
          <Failure error={upkeep.error} retry={() => void upkeep.refetch()} />
          {upkeep.data && items.length === 0 && (
            <Empty title="Nothing is planned yet">
              A steward adds the usual tasks of a machine below, and the house’s own above.
            </Empty>
          )}
          {upkeep.data?.foreseen.map((f) => (
            <p key={f.says} className={css.foreseen}>
              {f.says}
            </p>
          ))}
          {items.length > 0 && <Board items={items} />}
          {steward && (
            <ul className="plainlist mt-2">
              {upkeep.data?.untended.map((id) => (
                <Untended key={id} id={id} name={machines.data?.find((m) => m.id === id)?.name ?? id} />
              ))}
            </ul>
          )}
          <p className="small quiet">
            Dates run on while a machine is out of service; hours and runs stand still. A forecast goes by the use of
            the last 28 days. The maker’s manual comes before every limit here.
          </p>
        </section>
        <AfterBreak />
        <Report />
        <Faults />
        <Readings />
        <Trends />
      </div>
    </>
  )
}

function Untended({ id, name }: { id: string; name: string }) {
  const begin = useAction(() => answer(client.POST('/api/machines/{id}/upkeep', { params: { path: { id } } })))
  return (
    <li>
      <b>{name}</b> lacks tasks that such a machine has, its interlocks among them.{' '}
      <button type="button" className="quietlink" disabled={begin.isPending} onClick={() => begin.mutate()}>
        Add what it lacks
      </button>
      <Failure error={begin.error} />
    </li>
  )
}
