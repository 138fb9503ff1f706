import { useQuery } from '@tanstack/react-query'
import {
  drawingsQuery,
  dayQuery,
  hasRole,
  peopleQuery,
  sheetsQuery,
  trainersQuery,
  useMachines,
  useMaterials,
  useSession,
} from '../shared/session'
import { lengthIn, useUnit } from '../shared/units'
import { Blank, Pick, Write, type Option } from './Blank'
import type { AskState } from './askState'

interface SentenceProps {
  state: AskState
  change: (to: Partial<AskState>) => void
  errors: Record<string, string[]>
  shut: Set<string>
}

/** cut, score and engrave */
const list = (words: string[]) => [words.slice(0, -1).join(', '), words.at(-1)].filter(Boolean).join(' and ')

/** Minutes go out as a number; whether it is a sensible one, the server says. */
const notANumber = (text: string) =>
  text === '' || Number.isFinite(Number(text)) ? null : 'Write minutes as a number, such as 18.'

const operations = ['cut', 'score', 'engrave']

/** The question as a sentence with blanks. */
export function Sentence({ state, change, errors, shut }: SentenceProps) {
  return (
    <p className="sentence">
      May <Person {...{ state, change, errors, shut }} /> <Operations {...{ state, change, errors, shut }} />{' '}
      <Sheet {...{ state, change, errors, shut }} /> on <MachineBlank {...{ state, change, errors, shut }} />
      <Supervisor {...{ state, change, errors, shut }} /> with <DrawingBlank {...{ state, change, errors, shut }} /> on{' '}
      <Time {...{ state, change, errors, shut }} />?
    </p>
  )
}

function Person({ state, change, shut }: SentenceProps) {
  const { me } = useSession()
  const staff = hasRole(me, 'steward', 'trainer')
  const people = useQuery({ ...peopleQuery, enabled: staff })
  const id = state.member ?? me.memberId
  const name = id === me.memberId ? me.name : (people.data?.find((p) => p.id === id)?.name ?? id)
  if (!staff) return <b className="fixedname">{me.name}</b>
  return (
    <Blank name="Person" text={name} empty="someone" bad={shut.has('person') || shut.has('training')}>
      {(close) => (
        <Pick
          label="Find a person"
          value={id}
          options={(people.data ?? []).map((p) => ({
            value: p.id,
            label: p.name,
            note: p.certificates?.map((c) => c.authority).join(', '),
          }))}
          onPick={(member) => {
            change({ member })
            close()
          }}
        />
      )}
    </Blank>
  )
}

function Operations({ state, change, errors }: SentenceProps) {
  return (
    <Blank
      name="Operation"
      text={state.operations.length > 0 ? list(state.operations) : null}
      empty="do what to"
      error={errors.operations}
    >
      {(close) => (
        <fieldset>
          <legend className="form-label">What the beam does</legend>
          {operations.map((name, i) => (
            <div className="form-check" key={name}>
              <input
                className="form-check-input"
                type="checkbox"
                id={`op-${name}`}
                autoFocus={i === 0}
                checked={state.operations.includes(name)}
                onChange={(event) =>
                  change({
                    operations: operations.filter((o) =>
                      o === name ? event.target.checked : state.operations.includes(o),
                    ),
                  })
                }
                onKeyDown={(event) => event.key === 'Enter' && close()}
              />
              <label className="form-check-label" htmlFor={`op-${name}`}>
                {name}
              </label>
            </div>
          ))}
          <button type="button" className="btn btn-primary btn-sm mt-2" onClick={close}>
            Fill in
          </button>
        </fieldset>
      )}
    </Blank>
  )
}

function Sheet({ state, change, errors, shut }: SentenceProps) {
  const materials = useMaterials()
  const sheets = useQuery(sheetsQuery)
  const unit = useUnit()
  const material = materials.data?.find((m) => m.id === state.material)
  const bad = shut.has('sheet')
  const shelf: Option[] = (materials.data ?? []).map((m) => {
    const cell = m.cells.find((c) => c.machineId === (state.machine ?? m.cells[0]?.machineId))
    return {
      value: m.id,
      label: m.name,
      also: m.synonyms.join(' '),
      standing: cell && (cell.standing === 'permitted' ? 'clear' : cell.standing === 'byArrangement' ? 'ask' : 'shut'),
      standingWord: cell?.words,
    }
  })
  return (
    <>
      <Blank
        name="Thickness"
        text={state.thickness}
        empty="how thick"
        bad={bad}
        error={errors.thickness ?? errors.thicknessMm}
      >
        {(close) => (
          <Write
            label="Measured thickness"
            value={state.thickness ?? ''}
            help="Measure the sheet itself: 3 mm, 0.125 in or 1/8 in."
            onWrite={(text) => {
              change({ thickness: /^[\d.,]+$/.test(text) ? `${text} ${unit}` : text })
              close()
            }}
          />
        )}
      </Blank>{' '}
      <Blank
        name="Material"
        text={material?.name.toLowerCase() ?? state.material}
        empty="of what"
        bad={bad}
        error={errors.materialId}
      >
        {(close) => (
          <Pick
            label="Find a material"
            value={state.material}
            options={shelf}
            onPick={(id) => {
              change({ material: id, tag: null })
              close()
            }}
          />
        )}
      </Blank>
      {', '}
      <Blank
        name="Sheet tag"
        text={state.tag ? `sheet ${state.tag}` : 'no tag'}
        empty="no tag"
        bad={bad && !!state.tag}
        error={errors.sheetTag}
      >
        {(close) => (
          <Pick
            label="Find a sheet by its tag"
            value={state.tag}
            options={[
              { value: '', label: 'No tag', note: 'a sheet nobody has cleared' },
              ...(sheets.data ?? []).map((s): Option => ({
                value: s.tag,
                label: s.tag,
                note: `${s.materialName}, ${lengthIn(unit, s.thicknessMm)} ${unit}`,
                standing: s.quarantined ? 'shut' : s.cleared ? 'clear' : 'ask',
                standingWord: s.quarantined ? 'quarantine' : s.cleared ? 'cleared' : 'not cleared',
              })),
            ]}
            onPick={(tag) => {
              const sheet = sheets.data?.find((s) => s.tag === tag)
              change({
                tag: tag || null,
                ...(sheet && { material: sheet.materialId, thickness: `${sheet.thicknessMm} mm` }),
              })
              close()
            }}
          />
        )}
      </Blank>
    </>
  )
}

function MachineBlank({ state, change, errors, shut }: SentenceProps) {
  const machines = useMachines()
  const unit = useUnit()
  const machine = machines.data?.find((m) => m.id === state.machine)
  return (
    <>
      <Blank
        name="Machine"
        text={machine?.name ?? null}
        empty="which machine"
        bad={shut.has('machine')}
        error={errors.machineId}
      >
        {(close) => (
          <Pick
            label="Find a machine"
            value={state.machine}
            options={(machines.data ?? []).map((m) => ({
              value: m.id,
              label: m.name,
              note: `${m.powerW} W, ${lengthIn(unit, m.bedWidthMm)} x ${lengthIn(unit, m.bedHeightMm)} ${unit}`,
              standing: m.stop ? 'shut' : 'clear',
              standingWord: m.stop ? 'stopped' : 'in service',
            }))}
            onPick={(id) => {
              change({ machine: id, fixture: null, supervisor: null })
              close()
            }}
          />
        )}
      </Blank>
      {machine && machine.fixtures.length > 0 && (
        <>
          {' '}
          <Blank
            name="Fixture"
            text={state.fixture ? `with the ${state.fixture}` : 'flat bed'}
            empty="flat bed"
            error={errors.fixture}
          >
            {(close) => (
              <Pick
                label="Find a fixture"
                value={state.fixture}
                options={[{ value: '', label: 'Flat bed' }, ...machine.fixtures.map((f) => ({ value: f, label: f }))]}
                onPick={(fixture) => {
                  change({ fixture: fixture || null })
                  close()
                }}
              />
            )}
          </Blank>
        </>
      )}
    </>
  )
}

/** A learner runs beside a trainer for the machine, who is booked for the whole time. */
function Supervisor({ state, change, errors }: SentenceProps) {
  const trainers = useQuery({ ...trainersQuery(state.machine ?? ''), enabled: !!state.machine })
  const chosen = trainers.data?.find((t) => t.id === state.supervisor)
  const others = trainers.data?.filter((t) => t.id !== state.member)
  if (!state.machine || (!state.supervisor && !others?.length)) return null
  return (
    <>
      ,{' '}
      <Blank
        name="Supervisor"
        text={state.supervisor ? `beside ${chosen?.name ?? state.supervisor}` : 'alone'}
        empty="alone"
        error={errors.supervisorId}
      >
        {(close) => (
          <Pick
            label="Find a trainer for this machine"
            value={state.supervisor}
            options={[
              { value: '', label: 'Alone', note: 'a certificate is needed' },
              ...(others ?? []).map((t): Option => ({ value: t.id, label: t.name, note: 'stays for the whole time' })),
            ]}
            onPick={(supervisor) => {
              change({ supervisor: supervisor || null })
              close()
            }}
          />
        )}
      </Blank>
      ,
    </>
  )
}

function DrawingBlank({ state, change, errors, shut }: SentenceProps) {
  const drawings = useQuery(drawingsQuery)
  const unit = useUnit()
  const drawing = drawings.data?.find((d) => d.id === state.drawing)
  return (
    <>
      <Blank
        name="Drawing"
        text={drawing?.name ?? (state.drawing ? 'a drawing' : 'no drawing')}
        empty="no drawing"
        bad={shut.has('drawing')}
        error={errors.drawingId}
      >
        {(close) => (
          <Pick
            label="Find a drawing"
            value={state.drawing}
            options={[
              { value: '', label: 'No drawing', note: 'nothing is checked' },
              ...(drawings.data ?? []).map((d) => ({
                value: d.id,
                label: d.name,
                note: `${lengthIn(unit, d.widthMm)} x ${lengthIn(unit, d.heightMm)} ${unit}, ${d.operations.join(', ')}`,
              })),
            ]}
            onPick={(id) => {
              change({ drawing: id || null })
              close()
            }}
          />
        )}
      </Blank>
      {!state.drawing && (
        <>
          {' '}
          running{' '}
          <Blank
            name="Run time"
            text={state.run ? `${state.run} min` : null}
            empty="how long"
            error={errors.runMinutes}
          >
            {(close) => (
              <Write
                label="Minutes of beam, once through"
                value={state.run ?? ''}
                refuse={notANumber}
                help="Your own figure; a drawing from the bench brings its own. Leave it empty if you do not know."
                onWrite={(text) => {
                  change({ run: text || null, minutes: null })
                  close()
                }}
              />
            )}
          </Blank>
        </>
      )}
    </>
  )
}

function Time({ state, change, errors, shut }: SentenceProps) {
  const { time, now } = useSession()
  const date = state.date ?? time.iso(state.start ?? now())
  const day = useQuery(dayQuery(date))
  const bad = shut.has('time')
  return (
    <>
      <Blank name="Day" text={state.start ? time.day(state.start) : null} empty="a day" bad={bad}>
        {(close) => (
          <DayPick date={date} change={change} close={close} clock={state.start ? time.clock(state.start) : null} />
        )}
      </Blank>{' '}
      at{' '}
      <Blank
        name="Start"
        text={state.start ? time.clock(state.start) : null}
        empty="a time"
        bad={bad}
        error={errors.start}
      >
        {(close) => (
          <Pick
            label={`Find a time on ${day.data?.label ?? date}`}
            value={state.start}
            options={(day.data?.slots ?? []).map((s) => ({
              value: s.at,
              label: s.label,
              note: Date.parse(s.at) < now() ? 'past' : undefined,
            }))}
            onPick={(start) => {
              change({ start })
              close()
            }}
          />
        )}
      </Blank>{' '}
      for{' '}
      <Blank
        name="Minutes"
        text={state.minutes ? `${state.minutes} min` : 'as long as it needs'}
        empty=""
        bad={bad && !!state.minutes}
        error={errors.minutes}
      >
        {(close) => (
          <Write
            label="Whole minutes at the machine"
            value={state.minutes ?? ''}
            refuse={notANumber}
            help="Checks, runs, air clearing and clean-down together. Leave it empty to take what the job needs."
            onWrite={(text) => {
              change({ minutes: text || null })
              close()
            }}
          />
        )}
      </Blank>
    </>
  )
}

/** A day, kept with the wall-clock time chosen before, where that day has it. */
function DayPick({
  date,
  change,
  close,
  clock,
}: {
  date: string
  change: SentenceProps['change']
  close: () => void
  clock: string | null
}) {
  const day = useQuery(dayQuery(date))
  const move = (to: string) => change({ date: to })
  const take = () => {
    const slot = day.data?.slots.find((s) => s.label.startsWith(clock ?? '')) ?? day.data?.slots[0]
    if (slot) change({ start: slot.at })
    close()
  }
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault()
        take()
      }}
    >
      <label className="form-label" htmlFor="ask-day">
        Day
      </label>
      <input
        id="ask-day"
        type="date"
        className="form-control"
        autoFocus
        value={date}
        onChange={(event) => event.target.value && move(event.target.value)}
      />
      <p className="small quiet mt-1 mb-2">
        {day.data ? (day.data.slots.length > 0 ? day.data.label : `${day.data.label}: closed`) : ' '}
      </p>
      <div className="d-flex gap-2">
        <button
          type="button"
          className="btn btn-outline-primary btn-sm"
          onClick={() => day.data && move(day.data.previous)}
        >
          Day before
        </button>
        <button
          type="button"
          className="btn btn-outline-primary btn-sm"
          onClick={() => day.data && move(day.data.next)}
        >
          Day after
        </button>
        <button type="submit" className="btn btn-primary btn-sm" disabled={!day.data?.slots.length}>
          Fill in
        </button>
      </div>
    </form>
  )
}
