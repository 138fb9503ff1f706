import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import { Act, useAction } from '../../kit/Act'
import { answer, client, type Schemas } from '../../kit/api'
import { fieldErrors, SelectField, TextField } from '../../kit/parts'
import { useMachines, useSession } from '../../kit/session'
import { NeedFields, needOf } from './NeedFields'
import { StepList, type Step } from './StepList'

type Path = Schemas['PathResponse']

/** A path as it is edited: looked at first, with who would have something to do, then put in place. */
export function PathForm({ path, list, close }: { path?: Path; list: Schemas['PathList']; close: () => void }) {
  const { time } = useSession()
  const machines = useMachines().data ?? []
  const [chosen, setMachine] = useState('')
  const machine = chosen || (machines[0]?.id ?? '')
  const [addOn, setAddOn] = useState(path?.addOn ?? '')
  const [steps, setSteps] = useState<Step[]>(path?.steps ?? [{ kind: 'signOff', id: '', count: 0 }])
  const [refresher, setRefresher] = useState<Step[]>(path?.refresher ?? [{ kind: 'signOff', id: '', count: 0 }])
  const [need, setNeed] = useState(needOf(path?.need))
  const [from, setFrom] = useState('')
  const [reason, setReason] = useState('')
  const authority = path?.authority ?? machine
  const isAddOn = !path || !!path.addOn
  const bare = (all: Step[]) => all.map((s) => ({ kind: s.kind, id: s.id, count: s.count }))
  const startFrom = (name: string) => {
    const start = list.addOns.find((a) => a.authority.startsWith(`${machine}/`) && a.addOn === name)
    if (!start) return
    setAddOn(start.addOn)
    setSteps(start.steps)
    setRefresher(start.refresher)
    setNeed(needOf(start.need))
  }
  const body = {
    authority,
    addOn,
    steps: bare(steps),
    refresher: bare(refresher),
    need: isAddOn ? need : null,
    version: path?.version,
    from,
    reason,
  }
  const look = useAction(() => answer(client.POST('/api/training/paths/preview', { body })))
  const put = useAction(() => answer(client.POST('/api/training/paths', { body })), close)
  const errors = { ...fieldErrors(look.error), ...fieldErrors(put.error) }
  return (
    <Act
      act={put}
      button="Save the path"
      fields={['name', 'authority', 'steps', 'refresher', 'need', 'from', 'reason']}
    >
      {!path && (
        <>
          <SelectField
            id="path-machine"
            label="On"
            value={machine}
            put={setMachine}
            options={machines.map((m) => [m.id, m.name] as const)}
          />
          <SelectField
            id="path-start"
            label="Start from"
            value=""
            put={startFrom}
            options={[
              ['', 'A blank one, or choose'],
              ...list.addOns
                .filter((a) => a.authority.startsWith(`${machine}/`))
                .map((a) => [a.addOn, a.addOn] as const),
            ]}
          />
          <TextField
            id="path-name"
            label="What it is called"
            value={addOn}
            put={setAddOn}
            error={errors.name ?? errors.authority}
          />
        </>
      )}
      <StepList
        id="steps"
        title="Steps"
        steps={steps}
        put={setSteps}
        list={list}
        own={path?.authority ?? ''}
        error={errors.steps}
      />
      <StepList
        id="refresher"
        title="What renews it after a lapse"
        steps={refresher}
        put={setRefresher}
        list={list}
        own={path?.authority ?? ''}
        error={errors.refresher}
      />
      {isAddOn && <NeedFields need={need} put={setNeed} error={errors.need} />}
      <TextField
        id="path-from"
        label="From this day; empty begins now"
        type="date"
        value={from}
        put={setFrom}
        error={errors.from}
      />
      <TextField id="path-reason" label="Why" rows={2} value={reason} put={setReason} error={errors.reason} />
      {look.data && (
        <div className="proposal" role="status">
          {look.data.owing.length === 0 ? (
            <p className="mb-0">Nobody who holds it would have anything to read or answer.</p>
          ) : (
            <>
              <p className="mb-1">
                <b>
                  {look.data.owing.length === 1
                    ? 'One holder has something to do'
                    : `${look.data.owing.length} holders have something to do`}
                </b>
                ; the gate warns them until their day, and is shut after it:
              </p>
              <ul className="plainlist mb-0">
                {look.data.owing.slice(0, 12).map((o) => (
                  <li key={o.name}>
                    {o.name}: {o.titles.join(', ')}, by {time.date(Date.parse(o.countsUntil) - 1)}
                  </li>
                ))}
                {look.data.owing.length > 12 && <li>and {look.data.owing.length - 12} more</li>}
              </ul>
            </>
          )}
        </div>
      )}
      <Button size="sm" variant="outline-primary" disabled={look.isPending} onClick={() => look.mutate()}>
        See who it affects
      </Button>{' '}
      <button type="button" className="quietlink" onClick={close}>
        Cancel
      </button>{' '}
    </Act>
  )
}
