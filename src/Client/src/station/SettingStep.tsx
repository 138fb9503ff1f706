import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { entryName } from '../kit/names'
import { fieldErrors, TextField } from '../kit/parts'
import { useUnit } from '../kit/units'
import { Big, settingsQuery } from '../settings'
import { Main, type StepProps } from './Steps'
import css from './station.module.css'

/** What the machine is set to: the booked entry or the suggestion, large; or values of one’s own. */
export function SettingStep({ station, session, doing }: StepProps) {
  const unit = useUnit()
  const [own, setOwn] = useState({ power: '', speed: '', passes: '1' })
  const thickest = session.sheet.measured.length > 0 ? Math.max(...session.sheet.measured) : session.sheet.tagMm
  const operation = session.operations.includes('cut') ? 'cut' : session.operations[0]!
  const library = useQuery(
    settingsQuery(
      {
        operation,
        materialId: session.sheet.materialId,
        machineId: station.machineId,
        thickness: `${thickest} mm`,
      },
      unit,
    ),
  )
  const booked = library.data?.items.filter((i) => session.booked.includes(i.id)) ?? []
  const suggested = library.data?.items.find((i) => i.id === library.data.suggestion?.id)
  const offered = session.extra ? [] : [...booked, ...(suggested && !booked.includes(suggested) ? [suggested] : [])]
  const number = (text: string) => Number(text.replace(',', '.'))
  return (
    <>
      <h2>{session.extra ? 'Extra pass: at most half the energy' : 'Set the driver to'}</h2>
      {session.extra && session.set && (
        <>
          <p>Choose only the lines that are not through. Same focus, sheet as it lies, hand at the stop.</p>
          <Big power={session.set.powerPercent} speed={2 * session.set.speedMmPerS} passes={session.set.passes} />
          <Main
            doing={doing}
            act={{
              act: 'settings',
              values: {
                powerPercent: session.set.powerPercent,
                speedMmPerS: 2 * session.set.speedMmPerS,
                passes: session.set.passes,
              },
            }}
          >
            It is set to these
            <small>twice as fast</small>
          </Main>
        </>
      )}
      {offered.map((i) => (
        <div key={i.id} className={css.set}>
          <Big power={i.powerPercent} speed={i.speedMmPerS} passes={i.passes} watts={i.watts} />
          <Main doing={doing} act={{ act: 'settings', settingId: i.id }}>
            It is set to {entryName(i.number)}
          </Main>
        </div>
      ))}
      <details open={offered.length === 0 && !session.extra && !library.isPending}>
        <summary>Other values</summary>
        <form
          onSubmit={(event) => {
            event.preventDefault()
            doing.mutate({
              act: 'settings',
              values: { powerPercent: number(own.power), speedMmPerS: number(own.speed), passes: number(own.passes) },
            })
          }}
        >
          <TextField
            id="power"
            label="Power, %"
            inputMode="decimal"
            value={own.power}
            put={(power) => setOwn({ ...own, power })}
            error={fieldErrors(doing.error)['settings']}
          />
          <TextField
            id="speed"
            label="Speed, mm/s"
            inputMode="decimal"
            value={own.speed}
            put={(speed) => setOwn({ ...own, speed })}
          />
          <TextField
            id="passes"
            label="Passes"
            inputMode="numeric"
            value={own.passes}
            put={(passes) => setOwn({ ...own, passes })}
          />
          <button type="submit" className={css.main} disabled={doing.isPending}>
            It is set to these
          </button>
        </form>
      </details>
    </>
  )
}
