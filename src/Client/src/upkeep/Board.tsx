import { Fragment, useState } from 'react'
import type { Schemas } from '../kit/api'
import { Urgency } from '../kit/parts'
import { hasRole, useMachines, useSession } from '../kit/session'
import { DoneForm } from './DoneForm'
import { PlanForm } from './PlanForm'
import css from './upkeep.module.css'

type Task = Schemas['UpkeepResponse']
const day = 24 * 3600 * 1000

/** The tasks, each with how far it is. */
export function Board({ items }: { items: Task[] }) {
  const [open, setOpen] = useState<string | null>(null)
  return (
    <div className={css.scroll}>
      <table className={css.board}>
        <thead>
          <tr>
            <th>Machine</th>
            <th>Task</th>
            <th colSpan={2}>Used, and its limit</th>
            <th>Due</th>
            <th>
              <span className="visually-hidden">What to do</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {items.map((task) => (
            <Fragment key={task.id}>
              <Row task={task} open={open === task.id} toggle={() => setOpen(open === task.id ? null : task.id)} />
              {open === task.id && (
                <tr>
                  <td colSpan={6} className={css.opened}>
                    <Details task={task} close={() => setOpen(null)} />
                  </td>
                </tr>
              )}
            </Fragment>
          ))}
        </tbody>
      </table>
    </div>
  )
}

function Row({ task, open, toggle }: { task: Task; open: boolean; toggle: () => void }) {
  const { now, time } = useSession()
  const machines = useMachines()
  const name = machines.data?.find((m) => m.id === task.machineId)?.name ?? task.machineId ?? 'Room'
  const soon = task.forecast ? Date.parse(task.forecast) - now() : Infinity
  const urgency = task.overdue ? 4 : task.due ? 3 : soon < 7 * day ? 2 : 1
  return (
    <tr data-task={task.id}>
      <th>
        <Urgency of={urgency} /> {name}
      </th>
      <td className={css.task}>{task.name}</td>
      <td className={css.meter}>
        <Bar task={task} />
      </td>
      <td className={css.figures}>{figures(task)}</td>
      <td className={css.due}>
        {task.due ? (
          <b>{task.dueSince ? `since ${time.day(task.dueSince)}` : 'now'}</b>
        ) : task.forecast ? (
          time.day(task.forecast)
        ) : (
          <span className="quiet">not foreseeable</span>
        )}
      </td>
      <td className={css.act}>
        <button type="button" className="quietlink" aria-expanded={open} onClick={toggle}>
          {open ? 'Close' : task.mayDo ? 'Log it' : 'See how'}
          <span className="visually-hidden">
            : {task.name}, {name}
          </span>
        </button>
      </td>
    </tr>
  )
}

function figures(task: Task) {
  if (task.counter === 'airflow')
    return task.used == null ? 'never read' : `${Math.floor(task.used)} %, due under ${task.limit}`
  return `${task.used ?? 0} of ${task.limit} ${task.unit}`
}

/** How much of the limit is used; of airflow what is left of it, with the mark it must not fall under. */
function Bar({ task }: { task: Task }) {
  const air = task.counter === 'airflow'
  const part = task.used == null ? 0 : air ? task.used / 100 : task.used / task.limit
  const mark = air ? task.limit : 100
  return (
    <svg className={css.bar} viewBox="0 0 120 14" preserveAspectRatio="none" aria-hidden="true">
      <rect x="0.5" y="2.5" width="100" height="9" className={css.frame} />
      <rect x="0.5" y="2.5" width={Math.min(110, part * 100)} height="9" className={task.due ? css.full : css.fill} />
      <path d={`M${mark} 0V14`} className={task.overdue ? css.over : css.mark} />
    </svg>
  )
}

function Details({ task, close }: { task: Task; close: () => void }) {
  const { me, time } = useSession()
  const [changing, setChanging] = useState(false)
  if (changing) return <PlanForm task={task} close={() => setChanging(false)} />
  return (
    <div className={css.details}>
      <div>
        {task.steps.length > 0 && (
          <ol>
            {task.steps.map((step) => (
              <li key={step}>{step}</li>
            ))}
          </ol>
        )}
        <p className="small quiet">
          {task.kit && <>Needs: {task.kit}. </>}
          Counted since {time.day(task.since)}. {task.basis}{' '}
          {hasRole(me, 'steward') && (
            <button type="button" className="quietlink" onClick={() => setChanging(true)}>
              Change the task
            </button>
          )}
        </p>
      </div>
      {task.mayDo ? <DoneForm task={task} close={close} /> : <p>Done by {whoWords[task.who]}.</p>}
    </div>
  )
}

const whoWords: Record<Task['who'], string> = {
  member: 'whoever may run the machine',
  trainer: 'a trainer of the machine, a steward or its repairer',
  repairer: 'whoever holds repair authority for the machine',
}
