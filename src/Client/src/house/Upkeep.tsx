import { useAction } from '../kit/Act'
import { useQuery } from '@tanstack/react-query'
import { useState, type SubmitEvent } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { answer, client, type Schemas } from '../kit/api'
import { Failure, fieldErrors, TextField } from '../kit/parts'
import { hasRole, useSession } from '../kit/session'
import { upkeepQuery } from './houseQueries'
import machinesCss from './machines.module.css'

/** What is due on one machine; a steward writes down that it was done. */
export function Upkeep({ machineId }: { machineId: string }) {
  const tasks = useQuery(upkeepQuery)
  const mine = tasks.data?.filter((t) => t.machineId === machineId) ?? []
  if (tasks.isError) return <Failure error={tasks.error} retry={() => void tasks.refetch()} />
  if (mine.length === 0) return null
  return (
    <ul className={machinesCss.upkeep} aria-label="Upkeep">
      {mine.map((task) => (
        <Task key={task.id} task={task} />
      ))}
    </ul>
  )
}

function Task({ task }: { task: Schemas['UpkeepResponse'] }) {
  const { me, time } = useSession()
  const [open, setOpen] = useState(false)
  const [reason, setReason] = useState('')
  const [nextDay, setNextDay] = useState('')
  const done = useAction(
    () =>
      answer(
        client.POST('/api/upkeep/{id}/done', {
          params: { path: { id: task.id } },
          body: { reason, nextDay: nextDay || null },
        }),
      ),
    () => {
      setOpen(false)
      setReason('')
    },
  )
  const errors = fieldErrors(done.error)
  return (
    <li>
      <span>
        {task.name}:{' '}
        {task.overdue ? (
          <b>overdue since {time.moment(task.overdueFrom)}</b>
        ) : (
          `due by ${time.moment(task.overdueFrom)}`
        )}
      </span>
      {hasRole(me, 'steward') && !open && (
        <button type="button" className="quietlink" onClick={() => setOpen(true)}>
          Mark as done
        </button>
      )}
      {open && (
        <Form
          noValidate
          onSubmit={(event: SubmitEvent) => {
            event.preventDefault()
            done.mutate()
          }}
        >
          <TextField
            id={`upkeep-${task.id}`}
            label="What was done and found"
            error={errors.reason}
            autoFocus
            value={reason}
            put={setReason}
          />
          <TextField
            id={`upkeep-next-${task.id}`}
            label="Due again by (empty: in a month)"
            error={errors.nextDay}
            placeholder="2027-01-15"
            value={nextDay}
            put={setNextDay}
          />
          {done.isError && Object.keys(errors).length === 0 && <Failure error={done.error} />}
          <div className="d-flex gap-2">
            <Button type="submit" size="sm" disabled={done.isPending}>
              It is done
            </Button>
            <Button size="sm" variant="outline-primary" onClick={() => setOpen(false)}>
              Cancel
            </Button>
          </div>
        </Form>
      )}
    </li>
  )
}
