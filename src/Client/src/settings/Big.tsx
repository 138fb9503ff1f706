import css from './settings.module.css'

/** Power, speed and passes, to be read from two steps away. */
export function Big({
  power,
  watts,
  speed,
  passes,
}: {
  power: number
  /** Delivered; left out where nobody knows them. */
  watts?: number
  speed: number
  passes: number
}) {
  return (
    <dl className={css.big}>
      <div>
        <dt>Power{watts === undefined ? '' : `, ${watts} W`}</dt>
        <dd>
          {power}
          <i>%</i>
        </dd>
      </div>
      <div>
        <dt>Speed</dt>
        <dd>
          {speed}
          <i>mm/s</i>
        </dd>
      </div>
      <div>
        <dt>Passes</dt>
        <dd>{passes}</dd>
      </div>
    </dl>
  )
}
