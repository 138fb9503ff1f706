import { useQuery } from '@tanstack/react-query'
import { sheetsQuery, useMaterials } from '../kit/session'
import { lengthIn, useUnit } from '../kit/units'
import { Blank, Pick, Write, type Option } from './Blank'
import type { SentenceProps } from './blankProps'

/** cut, score and engrave */
const list = (words: string[]) => [words.slice(0, -1).join(', '), words.at(-1)].filter(Boolean).join(' and ')

const operations = ['cut', 'score', 'engrave']

export function Operations({ state, change, errors, nth = '' }: SentenceProps) {
  return (
    <Blank
      name={`Operation${nth}`}
      text={state.operations.length > 0 ? list(state.operations) : null}
      empty="do what to"
      error={errors.operations}
    >
      {(close) => (
        <fieldset>
          <legend className="form-label">What the beam does</legend>
          {operations.map((name, i) => (
            <div className="form-check" key={name}>
              <input
                className="form-check-input"
                type="checkbox"
                id={`op${nth}-${name}`}
                autoFocus={i === 0}
                checked={state.operations.includes(name)}
                onChange={(event) =>
                  change({
                    operations: operations.filter((o) =>
                      o === name ? event.target.checked : state.operations.includes(o),
                    ),
                  })
                }
                onKeyDown={(event) => event.key === 'Enter' && close()}
              />
              <label className="form-check-label" htmlFor={`op${nth}-${name}`}>
                {name}
              </label>
            </div>
          ))}
          <button type="button" className="btn btn-primary btn-sm mt-2" onClick={close}>
            Fill in
          </button>
        </fieldset>
      )}
    </Blank>
  )
}

export function Sheet({ state, change, errors, shut, nth = '' }: SentenceProps) {
  const materials = useMaterials()
  const sheets = useQuery(sheetsQuery)
  const unit = useUnit()
  const material = materials.data?.find((m) => m.id === state.material)
  const bad = shut.has('sheet')
  const shelf: Option[] = (materials.data ?? []).map((m) => {
    const cell = m.cells.find((c) => c.machineId === (state.machine ?? m.cells[0]?.machineId))
    return {
      value: m.id,
      label: m.name,
      also: m.synonyms.join(' '),
      standing: cell && (cell.standing === 'permitted' ? 'clear' : cell.standing === 'byArrangement' ? 'ask' : 'shut'),
      standingWord: cell?.words,
    }
  })
  return (
    <>
      <Blank
        name={`Thickness${nth}`}
        text={state.thickness}
        empty="how thick"
        bad={bad}
        error={errors.thickness ?? errors.thicknessMm}
      >
        {(close) => (
          <Write
            label="Measured thickness"
            value={state.thickness ?? ''}
            help="Measure the sheet itself: 3 mm, 0.125 in or 1/8 in."
            onWrite={(text) => {
              change({ thickness: /^[\d.,]+$/.test(text) ? `${text} ${unit}` : text })
              close()
            }}
          />
        )}
      </Blank>{' '}
      <Blank
        name={`Material${nth}`}
        text={material?.name.toLowerCase() ?? state.material}
        empty="of what"
        bad={bad}
        error={errors.materialId}
      >
        {(close) => (
          <Pick
            label="Find a material"
            value={state.material}
            options={shelf}
            onPick={(id) => {
              change({ material: id, tag: null })
              close()
            }}
          />
        )}
      </Blank>
      {', '}
      <Blank
        name={`Sheet tag${nth}`}
        text={state.tag ? `sheet ${state.tag}` : 'no tag'}
        empty="no tag"
        bad={bad && !!state.tag}
        error={errors.sheetTag}
      >
        {(close) => (
          <Pick
            label="Find a sheet by its tag"
            value={state.tag}
            options={[
              { value: '', label: 'No tag', note: 'a sheet nobody has cleared' },
              ...(sheets.data ?? []).map((s): Option => ({
                value: s.tag,
                label: s.tag,
                note: `${s.materialName}, ${lengthIn(unit, s.thicknessMm)} ${unit}`,
                standing: s.quarantined ? 'shut' : s.cleared ? 'clear' : 'ask',
                standingWord: s.quarantined ? 'quarantine' : s.cleared ? 'cleared' : 'not cleared',
              })),
            ]}
            onPick={(tag) => {
              const sheet = sheets.data?.find((s) => s.tag === tag)
              change({
                tag: tag || null,
                ...(sheet && { material: sheet.materialId, thickness: `${sheet.thicknessMm} mm` }),
              })
              close()
            }}
          />
        )}
      </Blank>
    </>
  )
}
