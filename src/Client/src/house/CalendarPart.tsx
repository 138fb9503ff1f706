import { usePress } from '../kit/Act'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import { answer, client, type Schemas } from '../kit/api'
import { Empty, Failure, Loading, RunOn } from '../kit/parts'
import { hasRole, useMachines, useSession } from '../kit/session'
import { ClosureFile } from './ClosureFile'
import { calendarQuery } from './houseQueries'
import { Month } from './Month'
import { PlanForm } from './PlanForm'

type Plan = Schemas['PlanResponse']
const kinds = { closure: 'Closed', class: 'Classes', duty: 'Stewards on duty' } as const

/** Closures, classes and the steward rota, each once or again and again. */
export function CalendarPart() {
  const { me } = useSession()
  const plans = useQuery(calendarQuery)
  const writes = hasRole(me, 'keeper', 'steward')
  return (
    <>
      <Month />
      {plans.isPending && <Loading what="the calendar" />}
      <Failure error={plans.error} retry={() => void plans.refetch()} />
      {plans.data &&
        (Object.keys(kinds) as (keyof typeof kinds)[]).map((kind) => {
          const lines = plans.data.filter((p) => p.kind === kind)
          return (
            <section key={kind} className="sheetgroup">
              <RunOn title={kinds[kind]} after={lines.length} />
              {lines.length === 0 ? (
                kind === 'duty' ? (
                  <Empty title="The rota is empty">Where a steward has to be on duty, the gate reads this rota.</Empty>
                ) : (
                  <p className="quiet mt-2">None to come.</p>
                )
              ) : (
                <ul className="plainlist">
                  {lines.map((p) => (
                    <Line key={p.id} plan={p} writes={writes} />
                  ))}
                </ul>
              )}
            </section>
          )
        })}
      {writes && <PlanForm />}
      {writes && <ClosureFile />}
    </>
  )
}

function Line({ plan, writes }: { plan: Plan; writes: boolean }) {
  const { time } = useSession()
  const machines = useMachines()
  const [sure, setSure] = useState(false)
  const end = usePress(() => answer(client.POST('/api/calendar/{id}/end', { params: { path: { id: plan.id } } })))
  const names = plan.machineIds.map((id) => machines.data?.find((m) => m.id === id)?.name ?? id).join(', ')
  return (
    <li data-plan={plan.id}>
      <b>{plan.kind === 'duty' ? plan.person : plan.title}</b>, {plan.when}.{' '}
      {plan.kind === 'closure' && (names ? `Machines: ${names}. ` : 'The whole house. ')}
      {plan.kind === 'class' && `${names} with ${plan.person}; ${plan.atOnce} may run at once. `}
      {plan.roster && plan.roster.length > 0 && `On the roster: ${plan.roster.join(', ')}. `}
      <span className="quiet">
        Next: {plan.next.map((n) => `${time.moment(n.start)} to ${time.clock(n.end)}`).join(' · ')}
      </span>{' '}
      {writes && !sure && (
        <button type="button" className="quietlink" onClick={() => setSure(true)}>
          End it
        </button>
      )}
      {sure && (
        <>
          <Button size="sm" variant="danger" onClick={() => end.mutate()} disabled={end.isPending}>
            End it from now
          </Button>{' '}
          <button type="button" className="quietlink" onClick={() => setSure(false)}>
            Keep
          </button>
        </>
      )}
      <Failure error={end.error} />
    </li>
  )
}
