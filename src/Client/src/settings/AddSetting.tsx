import { useRef, useState } from 'react'
import Form from 'react-bootstrap/Form'
import { Act, Fold, useAction } from '../kit/Act'
import { answer, client, type Schemas } from '../kit/api'
import { fieldErrors, SelectField, TextField } from '../kit/parts'
import { typedNumber } from '../kit/typed'
import { useUnit } from '../kit/units'
import { useDraft } from '../kit/useDraft'
import type { SettingWish } from './settingQueries'
import css from './settings.module.css'

const nothing = {
  power: '',
  watts: '',
  speed: '',
  passes: '1',
  frequency: '',
  pitch: '',
  offsets: '',
  focus: '',
  fan: '',
  fixture: '',
  mask: 'none',
  maskOf: '',
  origin: 'member',
  note: '',
}

/** What worked: for the machine, material, thickness and operation asked for above. */
export function AddSetting({
  wish,
  technician,
  guess,
}: {
  wish: SettingWish
  technician: boolean
  guess?: Schemas['GuessResponse'] | null
}) {
  const unit = useUnit()
  const form = useDraft(nothing)
  const [air, setAir] = useState(true)
  // The same press twice adds it once.
  const id = useRef(crypto.randomUUID())
  const d = form.draft
  const add = useAction(
    () =>
      answer(
        client.POST('/api/settings', {
          body: {
            id: id.current,
            machineId: wish.machineId,
            materialId: wish.materialId,
            operation: wish.operation,
            thickness: wish.thickness,
            unit,
            powerPercent: typedNumber(d.power),
            watts: typedNumber(d.watts),
            speed: d.speed,
            passes: typedNumber(d.passes),
            frequencyHz: typedNumber(d.frequency),
            pitch: d.pitch,
            offsets: d.offsets.trim() === '' ? [] : d.offsets.split(/[;\s]+/).map((o) => typedNumber(o) ?? 0),
            focusOffset: d.focus,
            fanLevel: typedNumber(d.fan),
            airAssist: air,
            fixture: d.fixture,
            mask: d.mask,
            maskOf: d.maskOf,
            origin: d.origin,
            note: d.note,
          },
        }),
      ),
    () => {
      form.clear()
      id.current = crypto.randomUUID()
    },
  )
  const errors = fieldErrors(add.error)
  const field = (name: keyof typeof nothing, label: string, own: string = name) => (
    <TextField
      id={`setting-${name}`}
      label={label}
      {...form.of(name, { [name]: errors[own] ?? [] })}
      error={errors[own]}
    />
  )
  return (
    <section className="mt-4">
      <Fold title="Add a setting for this">
        <Act
          act={add}
          button="Add it to the library"
          done={add.isSuccess ? 'Added.' : undefined}
          fields={[
            'thickness',
            'powerPercent',
            'watts',
            'speed',
            'passes',
            'frequencyHz',
            'pitch',
            'offsets',
            'focusOffset',
            'fanLevel',
            'maskOf',
            'origin',
            'note',
            'fixture',
          ]}
        >
          <p>
            To {wish.operation}, for {wish.thickness}.{' '}
            {guess && (
              <button
                type="button"
                className="quietlink"
                onClick={() =>
                  form.put({
                    power: String(guess.powerPercent),
                    speed: `${guess.speedMmPerS} mm/s`,
                    passes: String(guess.passes),
                    origin: 'firstGuess',
                  })
                }
              >
                Begin from the guess
              </button>
            )}
          </p>
          {errors.thickness && <p role="alert">{errors.thickness.join(' ')}</p>}
          <div className={css.fields}>
            {field('power', 'Power, %', 'powerPercent')}
            {field('speed', 'Speed, such as 20 mm/s')}
            {field('passes', 'Passes')}
            {wish.operation === 'engrave' && field('pitch', 'Line pitch')}
            {field('focus', 'Focus below the face', 'focusOffset')}
            <SelectField
              id="setting-origin"
              label="Where it comes from"
              value={d.origin}
              put={(origin) => form.put({ origin })}
              error={errors.origin}
              options={[
                ...(technician ? ([['technician', 'a technician, tried here']] as const) : []),
                ['member', 'a member, tried here'],
                ['maker', 'the maker, only a start'],
                ['firstGuess', 'a first guess'],
              ]}
            />
            <SelectField
              id="setting-mask"
              label="Tape on the sheet"
              value={d.mask}
              put={(mask) => form.put({ mask })}
              options={[
                ['none', 'none'],
                ['damp', 'damp tape'],
                ['dry', 'dry tape'],
              ]}
            />
            {d.mask !== 'none' && field('maskOf', 'What the tape is made of')}
          </div>
          <Form.Check
            id="setting-air"
            className="mb-2"
            label="Air assist on"
            checked={air}
            onChange={(event) => setAir(event.target.checked)}
          />
          <Fold title="More that the machine takes">
            <div className={css.fields}>
              {field('watts', 'Watts delivered, if measured')}
              {field('frequency', 'Frequency, Hz', 'frequencyHz')}
              {field('offsets', 'Intensity offsets, %, up to three')}
              {field('fan', 'Fan level', 'fanLevel')}
              {field('fixture', 'Fixture')}
            </div>
          </Fold>
          <TextField
            id="setting-note"
            label="A note"
            rows={2}
            value={d.note}
            put={(note) => form.put({ note })}
            error={errors.note}
          />
        </Act>
      </Fold>
    </section>
  )
}
