import { useSession } from '../kit/session'
import { Gauge } from './Gauge'
import type { Station } from './useStation'
import css from './station.module.css'

/** What the controller measures, each on its own scale. */
export function Readings({ station }: { station: Station }) {
  const { time } = useSession()
  const live = station.live
  if (!live) return null
  return (
    <section className={css.readings} data-silent={live.silent || undefined}>
      <h2>Readings</h2>
      {live.silent && (
        <p role="alert" className={css.held}>
          <b>{live.readAt ? `No reading since ${time.seconds(live.readAt)}.` : 'Nothing was read yet.'}</b>{' '}
          {live.lost ? 'Nothing starts.' : ''} A beam that is on runs out by itself; to stop it, press{' '}
          {station.machineName}
          ’s own stop.
        </p>
      )}
      {live.readings.map((reading) => (
        <Gauge key={reading.what} reading={reading} />
      ))}
      <p>
        Lid: <b>{live.lidShut ? 'shut' : live.lidShut === false ? 'open' : 'not read'}</b>
        {live.keyOut && (
          <>
            {' '}
            · <b>service key out</b>
          </>
        )}
      </p>
    </section>
  )
}
