import { usePress } from '../kit/Act'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState, type SubmitEvent } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { Link } from 'react-router'
import { answer, client, type Schemas } from '../kit/api'
import { Failure, Field, fieldErrors, RunOn, SelectField } from '../kit/parts'
import { drawingsQuery, hasRole, useMachines, useMaterials, useSession } from '../kit/session'
import { settingsQuery } from '../settings'
import { LookAtRun } from './LookAtRun'
import { lengthIn, useUnit } from '../kit/units'
import bookingsCss from './bookings.module.css'

type BookingAnswer = Schemas['BookingResponse']
const MINUTE = 60_000

export const outcomeWords: Record<Schemas['Outcome'], string> = {
  clean: 'clean',
  notThrough: 'not cut through',
  charred: 'charred',
  flame: 'a flame that stayed',
  abandoned: 'abandoned',
}

export const runsQuery = {
  queryKey: ['live', 'runs'],
  queryFn: async ({ signal }: { signal: AbortSignal }) => (await answer(client.GET('/api/runs', { signal }))).items,
}

/** Marks one of today's bookings as arrived; from when that may be, the server says. */
export function Arrive({ booking }: { booking: BookingAnswer }) {
  const { time } = useSession()
  const arrive = usePress(() =>
    answer(client.POST('/api/bookings/{id}/arrive', { params: { path: { id: booking.id } } })),
  )
  const there = booking.mine && <Link to={`/station/${booking.machineId}`}>At the machine</Link>
  if (booking.arrivedAt)
    return (
      <span className="quiet">
        arrived {time.clock(booking.arrivedAt)} {there}
      </span>
    )
  return (
    <>
      {there} {arrive.isError && <span role="alert">{arrive.error.message} </span>}
      <Button size="sm" variant="outline-primary" disabled={arrive.isPending} onClick={() => arrive.mutate()}>
        Arrived
      </Button>
    </>
  )
}

/** Bookings of the last week that are over and have no run yet, and the runs that were logged last. */
export function Runs({ recent }: { recent: BookingAnswer[] }) {
  const { me, time, now } = useSession()
  const unit = useUnit()
  const machines = useMachines()
  const runs = useQuery(runsQuery)
  const [open, setOpen] = useState<string | null>(null)
  if (!runs.data) return null
  // Of several sheets each is logged by itself; a run that names none was the first.
  const logged = new Set(runs.data.map((run) => `${run.bookingId ?? ''} ${run.item ?? 0}`))
  const left = (b: BookingAnswer) => b.items.flatMap((_, i) => (logged.has(`${b.id} ${i}`) ? [] : [i]))
  const staff = hasRole(me, 'steward', 'trainer')
  const toLook = runs.data.filter((run) => run.waitsForALook && (staff || run.mine))
  const toLog = recent.filter((b) => (b.mine || staff) && left(b).length > 0 && Date.parse(b.start) < now())
  const name = (id: string) => machines.data?.find((m) => m.id === id)?.name ?? id
  return (
    <section className="mt-4" id="runs">
      {toLook.length > 0 && (
        <>
          <RunOn title="Runs to look at" after={toLook.length} />
          <ul className={bookingsCss.bookings}>
            {toLook.map((run) => (
              <LookAtRun key={run.id} run={run} machine={name(run.machineId)} />
            ))}
          </ul>
        </>
      )}
      <div className={toLook.length > 0 ? 'mt-4' : undefined}>
        <RunOn title="Runs" after={toLog.length > 0 ? `${toLog.length} to log` : 'all logged'} />
      </div>
      <ul className={bookingsCss.bookings}>
        {toLog.map((b) => (
          <li key={b.id} data-tolog={b.id}>
            <span className="when">
              <b>{time.day(b.start)} </b>
              <b>{time.clock(b.start)}</b>
            </span>
            <span>{name(b.machineId)}</span>
            <span className={bookingsCss.name}>{b.name}</span>
            <span className={bookingsCss.act}>
              <Button size="sm" variant="outline-primary" onClick={() => setOpen(open === b.id ? null : b.id)}>
                Log the run
              </Button>
            </span>
            {open === b.id && <LogRun booking={b} left={left(b)} done={() => setOpen(null)} />}
          </li>
        ))}
      </ul>
      {runs.data.length > 0 && (
        <div className="shelfscroll" tabIndex={0} role="region" aria-label="Latest runs">
          <table className="plain">
            <thead>
              <tr>
                <th>When</th>
                <th>Machine</th>
                <th>Who</th>
                <th>What</th>
                <th>Outcome and settings</th>
              </tr>
            </thead>
            <tbody>
              {runs.data
                .filter((run) => !toLook.includes(run))
                .slice(0, 12)
                .map((run) => (
                  <tr key={run.id} data-run={run.id}>
                    <td>
                      {time.moment(run.start)} to {time.clock(run.end)}
                    </td>
                    <td>{name(run.machineId)}</td>
                    <td>{run.name}</td>
                    <td>
                      {run.operations.join(', ')} {lengthIn(unit, run.thicknessMm)} {unit} {run.materialName}
                    </td>
                    <td>
                      <b>{outcomeWords[run.outcome]}</b> {run.settings}
                      {run.why && ` (${run.why}).`}
                      {!run.counts &&
                        !run.supervised &&
                        run.outcome !== 'abandoned' &&
                        ' It does not count as practice.'}
                      {run.supervised &&
                        (run.counts
                          ? ' Supervised; both confirmed it.'
                          : ' Supervised: it counts once both confirm it.')}{' '}
                      {run.mayConfirm && <Confirm run={run.id} />}
                    </td>
                  </tr>
                ))}
            </tbody>
          </table>
        </div>
      )}
    </section>
  )
}

/** The second word on a supervised run. */
function Confirm({ run }: { run: string }) {
  const confirm = usePress(() => answer(client.POST('/api/runs/{id}/confirm', { params: { path: { id: run } } })))
  return (
    <>
      <Button size="sm" variant="outline-primary" onClick={() => confirm.mutate()} disabled={confirm.isPending}>
        I confirm this run
      </Button>
      <Failure error={confirm.error} />
    </>
  )
}

/** Every five minutes from the booking's start to an hour past its end, and no later than now. */
function instants(booking: BookingAnswer, now: number) {
  const last = Math.min(Date.parse(booking.end) + 60 * MINUTE, now)
  const found: number[] = []
  for (let at = Date.parse(booking.start); at <= last; at += 5 * MINUTE) found.push(at)
  return found
}

function LogRun({ booking, left, done }: { booking: BookingAnswer; left: number[]; done: () => void }) {
  const { time, now } = useSession()
  const unit = useUnit()
  const materials = useMaterials()
  const drawings = useQuery(drawingsQuery)
  const queries = useQueryClient()
  const [at] = useState(now)
  const times = instants(booking, at)
  const [id] = useState(() => crypto.randomUUID())
  const [start, setStart] = useState(times[Math.min(2, times.length - 1)]!)
  const [end, setEnd] = useState(times.filter((t) => t <= Date.parse(booking.end)).at(-1)!)
  const [outcome, setOutcome] = useState<Schemas['Outcome']>('clean')
  const [settings, setSettings] = useState('')
  const [picked, setPicked] = useState<string>()
  const [chosen, setChosen] = useState(left[0]!)
  const item = booking.items[chosen]!
  const library = useQuery(
    settingsQuery(
      {
        operation: item.operations.includes('cut') ? 'cut' : item.operations[0]!,
        materialId: item.materialId,
        machineId: booking.machineId,
        thickness: `${item.thicknessMm} mm`,
      },
      unit,
    ),
  )
  const fitting = library.data?.items.filter((i) => i.fits) ?? []
  // What was booked is what it was most likely set to.
  const setting = picked ?? fitting.find((i) => item.settingIds?.includes(i.id))?.id ?? ''
  const log = useMutation({
    mutationFn: () =>
      answer(
        client.POST('/api/runs', {
          body: {
            id,
            bookingId: booking.id,
            memberId: booking.mine ? null : booking.memberId,
            machineId: booking.machineId,
            materialId: item.materialId,
            thickness: `${item.thicknessMm} mm`,
            operations: item.operations,
            start: new Date(start).toISOString(),
            end: new Date(end).toISOString(),
            outcome,
            settings,
            settingId: setting,
            item: chosen,
          },
        }),
      ),
    onSuccess: async (made) => {
      await queries.invalidateQueries({ queryKey: ['live'] })
      if (!made.waitsForALook) done()
    },
  })
  const itemWords = (of: Schemas['GateItem'], i: number) =>
    `${i + 1}: ${of.operations.join(', ')} ${lengthIn(unit, of.thicknessMm)} ${unit} ${
      materials.data?.find((m) => m.id === of.materialId)?.name ?? of.materialId
    }${of.sheetTag ? `, ${of.sheetTag}` : ''}${drawings.data?.find((d) => d.id === of.drawingId)?.name.replace(/^/, ', ') ?? ''}`
  const errors = fieldErrors(log.error)
  if (log.data)
    return (
      <div className={bookingsCss.logrun} role="status">
        <p className={log.data.card ? bookingsCss.logwarn : 'mb-0'}>{log.data.says}</p>
        {log.data.card && (
          <p>
            <a href={log.data.card}>Open the emergency card</a>{' '}
            {log.data.incidentId && (
              <Link to={`/incidents/${log.data.incidentId}`}>It is over: fire watch, and what was seen</Link>
            )}
          </p>
        )}
        <Button size="sm" variant="outline-primary" onClick={done}>
          I have read it
        </Button>
      </div>
    )
  const pick = (label: string, field: string, value: number, set: (to: number) => void) => (
    <Field label={label} id={`run-${field}`} error={errors[field]}>
      <Form.Select id={`run-${field}`} value={value} onChange={(event) => set(Number(event.target.value))}>
        {times.map((t) => (
          <option key={t} value={t}>
            {time.clock(t)}
          </option>
        ))}
      </Form.Select>
    </Field>
  )
  return (
    <Form
      noValidate
      className={bookingsCss.logrun}
      onSubmit={(event: SubmitEvent) => {
        event.preventDefault()
        log.mutate()
      }}
    >
      {booking.items.length > 1 && (
        <SelectField
          id="run-item"
          label="Which of them"
          value={String(chosen)}
          put={(text) => {
            setChosen(Number(text))
            setPicked(undefined)
          }}
          error={errors.item}
          options={left.map((i) => [String(i), itemWords(booking.items[i]!, i)] as const)}
        />
      )}
      {pick('First beam', 'start', start, setStart)}
      {pick('Last beam', 'end', end, setEnd)}
      <Field label="How it came out" id="run-outcome" error={errors.outcome}>
        <Form.Select
          id="run-outcome"
          value={outcome}
          onChange={(event) => setOutcome(event.target.value as Schemas['Outcome'])}
        >
          {Object.entries(outcomeWords).map(([value, words]) => (
            <option key={value} value={value}>
              {words}
            </option>
          ))}
        </Form.Select>
      </Field>
      {fitting.length > 0 && (
        <SelectField
          id="run-setting"
          label="Set as in the library"
          value={setting}
          put={setPicked}
          error={errors.settingId}
          options={[
            ['', 'Otherwise'],
            ...fitting.map(
              (i) =>
                [
                  i.id,
                  `E-${i.number}: ${i.powerPercent} %, ${i.speedMmPerS} mm/s, ${i.passes === 1 ? '1 pass' : `${i.passes} passes`}`,
                ] as const,
            ),
          ]}
        />
      )}
      <Field label="Settings and remarks" id="run-settings" error={errors.settings}>
        <Form.Control
          id="run-settings"
          value={settings}
          placeholder="power, speed, passes, focus"
          onChange={(event) => setSettings(event.target.value)}
        />
      </Field>
      {outcome === 'flame' && (
        <p className={bookingsCss.logwarn}>
          Logging it puts the machine out of service and calls the stewards. The lid stays shut; nobody looks inside
          yet.
        </p>
      )}
      {log.isError && Object.keys(errors).length === 0 && <Failure error={log.error} />}
      <Button type="submit" disabled={log.isPending}>
        Log it
      </Button>
    </Form>
  )
}
