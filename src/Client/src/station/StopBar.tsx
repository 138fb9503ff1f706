import { useEffect, useState } from 'react'
import { Failure } from '../kit/parts'
import { useStop, type Doing, type Station } from './useStation'
import css from './station.module.css'

/** With a controller: the beam goes off first, anything else is asked after. */
export function StopBar({ station, doing }: { station: Station; doing: Doing }) {
  const stop = useStop(station.machineId)
  const [called, setCalled] = useState(false)
  useEffect(() => {
    if (!called) return
    const timer = setTimeout(() => setCalled(false), 20_000)
    return () => clearTimeout(timer)
  }, [called])
  const unanswered = stop.isError || (stop.data && !stop.data.seenOff)
  return (
    <>
      <button type="button" className={css.plate} onClick={() => stop.mutate(crypto.randomUUID())}>
        {unanswered ? (
          <small>
            This screen cannot stop {station.machineName}. Press {station.machineName}’s own red button.
          </small>
        ) : (
          <>
            STOP
            <small>beam off now</small>
          </>
        )}
      </button>
      <button
        type="button"
        className={css.other}
        disabled={doing.isPending || called}
        onClick={() => doing.mutate({ act: 'call' }, { onSuccess: () => setCalled(true) })}
      >
        {called ? 'A steward was told' : 'Call a steward'}
      </button>
      <button
        type="button"
        className={css.other}
        disabled={doing.isPending}
        onClick={() => doing.mutate({ act: 'stop', why: 'flame' })}
      >
        Flame or glow
      </button>
      <Failure error={doing.error} />
    </>
  )
}
