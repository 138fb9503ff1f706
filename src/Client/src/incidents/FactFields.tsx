import type { Schemas } from '../kit/api'
import { SelectField, TextField } from '../kit/parts'
import { typedNumber } from '../kit/typed'
import { useUnit } from '../kit/units'
import css from './incidents.module.css'

const noAnswer = { settingsFor: '', measured: '', airflowPercent: '', powerW: '', speedMmPerS: '', passes: '' }
const notSaid = { focusSet: '', somebodyThere: '', airAssistOn: '', lidTooSoon: '' }

/** What somebody says of the run until the house knows it for itself; an empty one was not said. */
export const noFacts = { ...noAnswer, ...notSaid, unit: 'mm' as string }
export type Facts = typeof noFacts

const yesNo = (text: string) => (text === '' ? null : text === 'yes')

export const factsOf = (facts: Facts): Schemas['FactsRequest'] => ({
  settingsFor: facts.settingsFor,
  measured: facts.measured,
  unit: facts.unit,
  focusSet: yesNo(facts.focusSet),
  somebodyThere: yesNo(facts.somebodyThere),
  airAssistOn: yesNo(facts.airAssistOn),
  airflowPercent: typedNumber(facts.airflowPercent),
  lidTooSoon: yesNo(facts.lidTooSoon),
  powerW: typedNumber(facts.powerW),
  speedMmPerS: typedNumber(facts.speedMmPerS),
  passes: typedNumber(facts.passes),
})

/** Asked in words until station, settings and upkeep bring them; what is found from them is marked as told. */
export function FactFields({
  facts,
  put,
  errors,
}: {
  facts: Facts
  put: (facts: Facts) => void
  errors: Record<string, string[]>
}) {
  const unit = useUnit()
  const text = (field: keyof typeof noAnswer, label: string) => (
    <TextField
      id={`fact-${field}`}
      label={label}
      inputMode="decimal"
      value={facts[field]}
      put={(value) => put({ ...facts, unit, [field]: value })}
      error={errors[field] ?? errors[`facts.${field}`]}
    />
  )
  const choice = (field: keyof typeof notSaid, label: string) => (
    <SelectField
      id={`fact-${field}`}
      label={label}
      value={facts[field]}
      put={(value) => put({ ...facts, unit, [field]: value })}
      options={[
        ['', 'Not said'],
        ['yes', 'Yes'],
        ['no', 'No'],
      ]}
    />
  )
  return (
    <div className={css.facts}>
      {text('settingsFor', `Settings were made for a thickness of (${unit})`)}
      {text('measured', `The sheet measures (${unit})`)}
      {choice('focusSet', 'Head height set for this sheet')}
      {choice('somebodyThere', 'Somebody stood by it all the time')}
      {choice('airAssistOn', 'Air assist on')}
      {text('airflowPercent', 'Airflow of the extraction, % of usual')}
      {choice('lidTooSoon', 'Lid opened before its time')}
      {text('powerW', 'Beam power (W)')}
      {text('speedMmPerS', 'Speed (mm/s)')}
      {text('passes', 'Passes')}
    </div>
  )
}
