import { useQueries } from '@tanstack/react-query'
import type { Schemas } from '../kit/api'
import { entryName } from '../kit/names'
import { lengthIn, useUnit } from '../kit/units'
import { settingsQuery, type SettingWish } from '../settings'
import { Blank, Pick, type Option } from './Blank'
import type { SentenceProps } from './blankProps'

/** The entries of the library that the machine will be set to, one for each thing the beam does. */
export function SettingBlank({ state, change, errors, nth = '' }: SentenceProps) {
  const unit = useUnit()
  const lists = useQueries({
    queries: state.operations.map((operation) =>
      settingsQuery(
        {
          operation: operation as SettingWish['operation'],
          materialId: state.material ?? '',
          machineId: state.machine ?? '',
          thickness: state.thickness ?? '',
        },
        unit,
      ),
    ),
  })
  if (!state.machine || !state.material || !state.thickness) return null
  const chosen = state.settings?.split(',') ?? []
  const entries = lists.flatMap((list, i) =>
    (list.data?.items ?? []).filter((s) => s.operation === state.operations[i]).map((s) => ({ s, list: list.data! })),
  )
  if (entries.length === 0 && chosen.length === 0) return null
  const named = entries
    .filter(({ s }) => chosen.includes(s.id))
    .map(({ s }) => `${entryName(s.number)} to ${s.operation}`)
  const put = (id: string) => {
    const entry = entries.find(({ s }) => s.id === id)
    // One for each operation: the new one takes the place of the other.
    const others = chosen.filter((c) => entries.find(({ s }) => s.id === c)?.s.operation !== entry?.s.operation)
    change({ settings: entry ? [...others, id].join(',') : null, minutes: null })
  }
  return (
    <>
      {', set to '}
      <Blank
        name={`Setting${nth}`}
        text={named.length > 0 ? named.join(' and ') : chosen.length > 0 ? 'a setting' : null}
        empty="no setting chosen"
        error={errors.settingIds}
      >
        {(close) => (
          <Pick
            label="Find a setting"
            value={chosen[0] ?? null}
            options={[
              { value: '', label: 'None chosen', note: 'nothing holds the setting against the sheet' },
              ...entries.map(({ s, list }) => option(s, list, unit)),
            ]}
            onPick={(id) => {
              put(id)
              close()
            }}
          />
        )}
      </Blank>
    </>
  )
}

function option(s: Schemas['SettingResponse'], list: Schemas['SettingList'], unit: 'mm' | 'in'): Option {
  const first = list.suggestion?.id === s.id
  return {
    value: s.id,
    label: `${entryName(s.number)}, ${s.operation}`,
    note: [
      `${s.powerPercent} %`,
      `${s.speedMmPerS} mm/s`,
      `${s.passes} ${s.passes === 1 ? 'pass' : 'passes'}`,
      `for ${lengthIn(unit, s.thicknessMm)} ${unit}`,
    ].join(', '),
    standing: s.standing && s.standing !== 'clear' ? s.standing : s.whyNot ? 'caution' : 'clear',
    standingWord: s.ratio && s.standing !== 'clear' ? `${s.ratio} times` : (s.whyNot ?? (first ? 'suggested' : 'fits')),
  }
}
