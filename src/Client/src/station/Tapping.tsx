import { useState } from 'react'
import { Failure, fieldErrors, TextField } from '../kit/parts'
import { useSession } from '../kit/session'
import { useTap, type Station } from './useStation'
import css from './station.module.css'

/** What the last tap at this machine was, on every screen of it. */
export function LastTap({ station }: { station: Station }) {
  const { time } = useSession()
  const { tap } = station
  return (
    <p className={tap?.code ? `${css.tapped} ${css.refused}` : css.tapped} role="status" hidden={!tap}>
      {tap && (
        <>
          <b>{time.clock(tap.at)}</b> {tap.says}
        </>
      )}
    </p>
  )
}

/** On a screen that nobody is signed in on: at its own reader, or with the code from a phone. */
export function TapForm({ station }: { station: Station }) {
  return (
    <>
      {station.tap?.code === 'pin.wanted' && <PinForm station={station} />}
      <FobForm station={station} />
    </>
  )
}

function FobForm({ station }: { station: Station }) {
  const [typed, setTyped] = useState('')
  const tap = useTap(station.machineId)
  const errors = fieldErrors(tap.error)
  const own = errors['fob'] ?? errors['code']
  return (
    <form
      className={css.tapform}
      onSubmit={(event) => {
        event.preventDefault()
        const text = typed.trim()
        tap.mutate(/^\d{6}$/.test(text) ? { code: text } : { fob: text }, { onSettled: () => setTyped('') })
      }}
    >
      <TextField
        id="tap"
        label={`${station.live ? 'Hold your fob at the reader, or type' : 'Type'} the tap-in code from your phone`}
        value={typed}
        put={setTyped}
        error={own}
        autoComplete="off"
      />
      <button type="submit" className={css.other} disabled={tap.isPending || typed.trim() === ''}>
        Tap in
      </button>
      {!own && <Failure error={tap.error} />}
    </form>
  )
}

/** A fob was held here, and its PIN is waited for. */
function PinForm({ station }: { station: Station }) {
  const [pin, setPin] = useState('')
  const tap = useTap(station.machineId)
  const own = fieldErrors(tap.error)['pin']
  return (
    <form
      className={css.tapform}
      onSubmit={(event) => {
        event.preventDefault()
        tap.mutate({ pin: pin.trim() }, { onSettled: () => setPin('') })
      }}
    >
      <TextField
        id="pin"
        label="PIN that goes with this fob"
        type="password"
        inputMode="numeric"
        value={pin}
        put={setPin}
        error={own}
        autoComplete="off"
        autoFocus
      />
      <button type="submit" className={css.other} disabled={tap.isPending || pin.trim() === ''}>
        Go on
      </button>
      {!own && <Failure error={tap.error} />}
    </form>
  )
}

/** Signed in where somebody else is tapped in: to supervise, to stand by, to take over. */
export function Beside({ station }: { station: Station }) {
  const tap = useTap(station.machineId)
  return (
    <>
      <button type="button" className={css.other} disabled={tap.isPending} onClick={() => tap.mutate({})}>
        {station.takesOver ? 'Hand over now' : 'I am here'}
        <small>
          {station.takesOver ? 'both have tapped, within 15 s' : 'to supervise, to stand by, or to take over'}
        </small>
      </button>
      <Failure error={tap.error} />
    </>
  )
}
