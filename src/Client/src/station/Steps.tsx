import { useEffect, useState, type ReactNode } from 'react'
import { Failure, fieldErrors, TextField } from '../kit/parts'
import { lengthIn, useUnit } from '../kit/units'
import { SettingStep } from './SettingStep'
import { minutesLeft, useTick, useTone, type Doing, type Session, type Station } from './useStation'
import css from './station.module.css'

export interface StepProps {
  station: Station
  session: Session
  doing: Doing
}

const names = {
  checks: 'Looks',
  sheet: 'Sheet',
  focus: 'Focus',
  settings: 'Settings',
  frame: 'Frame',
  air: 'Air',
  confirm: 'Start',
} as const

/** What comes before the beam: one thing large, the others in order beside it. */
export function Steps(props: StepProps) {
  const { session, doing } = props
  // What an extra pass or another piece leaves out is not asked again.
  const again = session.runs.length > 0 && (session.extra || session.confirmed)
  const order = (Object.keys(names) as (keyof typeof names)[]).filter(
    (step) => !again || !['checks', 'sheet', 'frame', 'air'].includes(step),
  )
  const at = order.indexOf(session.step as keyof typeof names)
  return (
    <div className={css.two}>
      <section className={css.one} aria-live="polite">
        {session.held && (
          <p className={css.held} role="alert">
            <b>Held.</b> {session.held}. A steward looks before anything starts.
          </p>
        )}
        {session.step === 'checks' && session.found.length > 0 && (
          <p className={css.held}>
            <b>Left by the one before:</b> {session.found.join(', ')}. Tell what you find with “Something is wrong”.
          </p>
        )}
        {session.attend && <Here attend={session.attend} doing={doing} />}
        {session.step === 'checks' && <Checks {...props} />}
        {session.step === 'sheet' && <Sheet {...props} />}
        {session.step === 'focus' && <Focus {...props} />}
        {session.step === 'settings' && <SettingStep {...props} />}
        {session.step === 'frame' && <FrameIt {...props} />}
        {session.step === 'air' && <Air {...props} />}
        {session.step === 'confirm' && <Confirm {...props} />}
        {Object.keys(fieldErrors(doing.error)).length === 0 && <Failure error={doing.error} />}
      </section>
      <aside className={css.order}>
        <h2>In order</h2>
        <ol>
          {order.map((step, i) => (
            <li key={step} className={i < at ? css.done : i === at ? css.now : ''} aria-current={i === at || undefined}>
              {names[step]}
              <span>{i < at ? 'done' : i === at ? 'now' : ''}</span>
            </li>
          ))}
        </ol>
        {session.supervisorDue && <p className={css.held}>Your supervisor taps too, before the start.</p>}
        {session.beside && (
          <p>
            <b>{session.beside}</b> stands by.
          </p>
        )}
        {session.items > 1 && (
          <p>
            Sheet {session.item + 1} of {session.items}
          </p>
        )}
        {session.open.length > 0 && (
          <>
            <h2>Holds the rope</h2>
            <ul>
              {session.open.map((reason) => (
                <li key={reason.code + reason.text}>
                  {reason.text} {reason.remedy}
                </li>
              ))}
            </ul>
          </>
        )}
        {session.step === 'confirm' && !!session.watch?.length && (
          <>
            <h2>While it runs</h2>
            <ul>
              {session.watch.map((line) => (
                <li key={line}>{line}</li>
              ))}
            </ul>
          </>
        )}
        {!!session.mind?.length && (
          <>
            <h2>Mind</h2>
            <ul>
              {session.mind.map((reason) => (
                <li key={reason.code + reason.text}>{reason.text}</li>
              ))}
            </ul>
          </>
        )}
      </aside>
    </div>
  )
}

/** On a machine whose attention counts from tapping in: whoever prepares for long says between that they are here. */
function Here({ attend, doing }: { attend: NonNullable<Session['attend']>; doing: Doing }) {
  const at = useTick()
  const left = Date.parse(attend.until) - at
  const warn = left <= attend.warnSeconds * 1000
  useTone(warn)
  return (
    <p className={warn ? css.held : undefined}>
      <button
        type="button"
        className="quietlink"
        disabled={doing.isPending}
        onClick={() => doing.mutate({ act: 'press' })}
      >
        I’m here
      </button>{' '}
      {left > 0 ? `Say so, or go on, within ${minutesLeft(left)}.` : 'Nobody said so in time: the looks begin anew.'}
    </p>
  )
}

export function Main({
  doing,
  act,
  children,
  disabled,
}: {
  doing: Doing
  act: Parameters<Doing['mutate']>[0]
  children: ReactNode
  disabled?: boolean
}) {
  return (
    <button type="button" className={css.main} disabled={doing.isPending || disabled} onClick={() => doing.mutate(act)}>
      {children}
    </button>
  )
}

function Checks({ session, doing }: StepProps) {
  const [wrong, setWrong] = useState<string | null>(null)
  const place = session.places.find((p) => p.open)
  if (!place) return null
  return (
    <>
      <h2>{place.title}</h2>
      <ul className={css.lines}>
        {place.lines.map((line) => (
          <li key={line}>{line}</li>
        ))}
      </ul>
      {wrong === null ? (
        <div className={css.pair}>
          <Main doing={doing} act={{ act: 'check', item: place.id, ok: true }}>
            All good
          </Main>
          <button type="button" className={css.other} onClick={() => setWrong('')}>
            Something is wrong
          </button>
        </div>
      ) : (
        <>
          <TextField id="wrong" label="What is wrong" value={wrong} put={setWrong} autoFocus />
          <Main doing={doing} act={{ act: 'check', item: place.id, ok: false, note: wrong }}>
            Tell it, and hold the machine
          </Main>
          <button type="button" className="quietlink" onClick={() => setWrong(null)}>
            Back
          </button>
        </>
      )}
    </>
  )
}

function Sheet({ session, doing }: StepProps) {
  const unit = useUnit()
  const { sheet } = session
  const [tag, setTag] = useState('')
  const [mm, setMm] = useState<string[]>(() => Array.from({ length: sheet.places }, () => ''))
  const errors = fieldErrors(doing.error)
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault()
        doing.mutate({ act: 'sheet', tag, thickness: mm, unit })
      }}
    >
      <h2>
        {sheet.material}, {lengthIn(unit, sheet.tagMm)} {unit}
      </h2>
      {sheet.tag && (
        <TextField
          id="tag"
          label={`Its tag, as it stands on the sheet: ${sheet.tag}`}
          value={tag}
          put={setTag}
          error={errors['tag']}
        />
      )}
      {mm.map((text, i) => (
        <TextField
          key={i}
          id={`mm-${i}`}
          label={mm.length > 1 ? `Thickness, place ${i + 1}` : 'Thickness, measured'}
          inputMode="decimal"
          value={text}
          put={(to) => setMm(mm.map((m, j) => (i === j ? to : m)))}
          error={errors[`thickness[${i}]`] ?? (i === mm.length - 1 ? errors['thicknessMm'] : undefined)}
        />
      ))}
      <button type="submit" className={css.main} disabled={doing.isPending}>
        This is the sheet
      </button>
    </form>
  )
}

function Focus({ station, session, doing }: StepProps) {
  const gauge = station.keptAt.find((k) => k.what.toLowerCase().includes('gauge'))
  return (
    <>
      <h2>Focus on this sheet</h2>
      <p>Lid open, beam off. The height is set on the sheet as it lies, once for each sheet.</p>
      <div className={css.pair}>
        {session.focusMethods.map((method) => (
          <Main key={method} doing={doing} act={{ act: 'focus', method, gaugeBack: true }}>
            {method}
            <small>
              {method.includes('auto') ? 'flat, even sheet only' : `and back it goes${gauge ? `: ${gauge.where}` : ''}`}
            </small>
          </Main>
        ))}
      </div>
    </>
  )
}

const framings = {
  pointerLidOpen: 'Lid open, pointer only. The pointer is no beam; on a machine where it is, eyewear first.',
  pointerLidShut: 'Lid shut, pointer only.',
  beamOffLidShut: 'High voltage off, one pulse to discharge, lid shut.',
  byHand: 'By hand, the head moved round the work with the beam off.',
}

function FrameIt({ station, session, doing }: StepProps) {
  const unit = useUnit()
  return (
    <>
      <h2>Frame the job</h2>
      {session.box && (
        <p className={css.large}>
          {lengthIn(unit, session.box.widthMm)} × {lengthIn(unit, session.box.heightMm)} {unit}
        </p>
      )}
      <ul className={css.lines}>
        <li>Head rests {station.homeCorner}; the job starts from the corner that you chose for it</li>
        {station.framing && <li>{framings[station.framing]}</li>}
        <li>The box lies on the sheet, clear of clamps and magnets, inside the margins</li>
        <li>The job in the queue is the one that was checked: same name, same size</li>
      </ul>
      <Main doing={doing} act={{ act: 'frame' }}>
        It fits
      </Main>
    </>
  )
}

function Air({ station, session, doing }: StepProps) {
  return (
    <>
      <h2>Air</h2>
      <ul className={css.lines}>
        <li>The fan runs: hear it, feel it at the slot, or see the ribbon drawn in</li>
        {session.asksAssist && <li>Air assist is on: without it flames stay</li>}
        <li>The lid is shut</li>
      </ul>
      {session.controlled && (
        <p>
          Airflow and lid are read: {airflowNow(station)}, lid {station.live?.lidShut ? 'shut' : 'not shut'}.
        </p>
      )}
      <Main doing={doing} act={{ act: 'air', seen: true, assist: session.asksAssist, lidShut: true }}>
        Yes, all of it
      </Main>
    </>
  )
}

const airflowNow = (station: StepProps['station']) => {
  const flow = station.live?.readings.find((r) => r.what === 'Airflow')
  return flow?.value === undefined || flow.value === null ? 'no airflow' : `${flow.value} ${flow.unit}`
}

const HOLD_MS = 1500

function Confirm({ session, doing }: StepProps) {
  const at = useTick()
  const lead = session.leadUntil ? Math.ceil((Date.parse(session.leadUntil) - at) / 1000) : 0
  return session.hereDue ? (
    <HereFirst doing={doing} />
  ) : session.confirmed ? (
    <>
      <h2>Start</h2>
      <p className={css.large}>Focus unchanged, sheet not moved, loose bits out, lid shut, I stay.</p>
      {lead > 0 && (
        <p className={css.count}>
          {minutesLeft(lead * 1000)} <span>of extraction first</span>
        </p>
      )}
      <Hold disabled={doing.isPending || lead > 0} done={() => doing.mutate({ act: 'start', stay: true })}>
        Hold to start
        <small>then press the machine’s own start</small>
      </Hold>
      {doing.error && (
        <Main doing={doing} act={{ act: 'air', seen: true, assist: session.asksAssist, lidShut: true }}>
          I looked at fan, air assist and lid again
        </Main>
      )}
    </>
  ) : (
    <Three doing={doing} />
  )
}

/** From a phone, before each start: that it stands at the machine. */
function HereFirst({ doing }: { doing: Doing }) {
  const [code, setCode] = useState('')
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault()
        doing.mutate({ act: 'here', code })
      }}
    >
      <h2>Are you there?</h2>
      <p>Scan the code that stands at the machine with this phone, or type it. Before each start.</p>
      <TextField
        id="here"
        label="Code at the machine"
        value={code}
        put={setCode}
        error={fieldErrors(doing.error)['code']}
        autoComplete="off"
      />
      <button type="submit" className={css.main} disabled={doing.isPending || code.trim() === ''}>
        I stand there
      </button>
    </form>
  )
}

function Three({ doing }: { doing: Doing }) {
  const [ticks, setTicks] = useState([false, false, false])
  const sentences = ['The height is set for this sheet', 'This material is on the list', 'I stay while it runs']
  return (
    <>
      <h2>First run of this sheet</h2>
      {sentences.map((text, i) => (
        <label key={text} className={css.tick}>
          <input
            type="checkbox"
            checked={ticks[i]}
            onChange={(event) => setTicks(ticks.map((t, j) => (i === j ? event.target.checked : t)))}
          />
          {text}
        </label>
      ))}
      <Main
        doing={doing}
        disabled={ticks.includes(false)}
        act={{ act: 'confirm', height: true, material: true, stay: true }}
      >
        I say so
      </Main>
    </>
  )
}

/** One press, held: nobody starts by brushing the screen. By keyboard it is held too. */
function Hold({ disabled, done, children }: { disabled: boolean; done: () => void; children: ReactNode }) {
  const [held, setHeld] = useState(false)
  useEffect(() => {
    if (!held) return
    const timer = setTimeout(() => {
      setHeld(false)
      done()
    }, HOLD_MS)
    return () => clearTimeout(timer)
    // eslint-disable-next-line react-hooks/exhaustive-deps -- what is done is that of the press.
  }, [held])
  const down = () => !disabled && setHeld(true)
  const up = () => setHeld(false)
  return (
    <button
      type="button"
      className={`${css.main} ${held ? css.holding : ''}`}
      disabled={disabled}
      onPointerDown={down}
      onPointerUp={up}
      onPointerLeave={up}
      onPointerCancel={up}
      onKeyDown={(event) => (event.key === 'Enter' || event.key === ' ') && !event.repeat && down()}
      onKeyUp={up}
      onBlur={up}
    >
      {children}
    </button>
  )
}
