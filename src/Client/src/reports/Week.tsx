import type { Schemas } from '../kit/api'
import css from './reports.module.css'

const days = ['monday', 'tuesday', 'wednesday', 'thursday', 'friday', 'saturday', 'sunday'] as const

/** The week hour by hour: how much of what was open was booked. A column of each cell is as high as its share. */
export function Week({ hours }: { hours: Schemas['HourOfWeek'][] }) {
  const columns = [...new Set(hours.map((h) => h.hour))].sort((a, b) => a - b)
  const at = (day: string, hour: number) => hours.find((h) => h.day === day && h.hour === hour)
  return (
    <div className="shelfscroll" tabIndex={0} role="region" aria-label="By hour of the week">
      <table className={css.week}>
        <thead>
          <tr>
            <th />
            {columns.map((hour) => (
              <th key={hour} scope="col">
                {String(hour).padStart(2, '0')}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {days.map((day) => (
            <tr key={day}>
              <th scope="row">{day[0]!.toUpperCase() + day.slice(1, 3)}</th>
              {columns.map((hour) => (
                <Cell key={hour} cell={at(day, hour)} />
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  )
}

function Cell({ cell }: { cell: Schemas['HourOfWeek'] | undefined }) {
  if (!cell || (cell.openMinutes === 0 && cell.bookedMinutes === 0)) return <td className={css.shut}>closed</td>
  const share = cell.openMinutes > 0 ? Math.min(1, cell.bookedMinutes / cell.openMinutes) : 1
  return (
    <td>
      {share > 0 && <i style={{ height: `${55 * share}%` }} />}
      <span>{Math.round(100 * share)}</span>
    </td>
  )
}
