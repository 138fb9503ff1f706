import Form from 'react-bootstrap/Form'
import { MaterialField } from '../../materials'
import type { Schemas } from '../../kit/api'
import { TextField } from '../../kit/parts'
import { useMaterials } from '../../kit/session'

export type Need = { fixture: string; thickerThan: string; materialIds: string[]; forSigning: boolean }

export const needOf = (need?: Schemas['AddOnNeed'] | null): Need => ({
  fixture: need?.fixture ?? '',
  thickerThan: need?.thickerThanMm ? `${need.thickerThanMm} mm` : '',
  materialIds: need?.materialIds ?? [],
  forSigning: need?.forSigning ?? false,
})

/** When an add-on is asked for: any of these is enough. */
export function NeedFields({ need, put, error }: { need: Need; put: (need: Need) => void; error?: string[] }) {
  const materials = useMaterials().data ?? []
  const without = (id: string) => need.materialIds.filter((m) => m !== id)
  return (
    <fieldset>
      <legend className="form-label">When it is asked for; any of these is enough</legend>
      <TextField
        id="need-fixture"
        label="Runs with this fixture"
        value={need.fixture}
        put={(fixture) => put({ ...need, fixture })}
      />
      <TextField
        id="need-thick"
        label="Stock thicker than"
        placeholder="such as 6 mm or 1/4 in"
        value={need.thickerThan}
        put={(thickerThan) => put({ ...need, thickerThan })}
        error={error}
      />
      <MaterialField
        id="need-material"
        label="These materials"
        value=""
        put={(id) => id && put({ ...need, materialIds: [...without(id), id] })}
      />
      {need.materialIds.length > 0 && (
        <ul className="plainlist">
          {need.materialIds.map((id) => (
            <li key={id}>
              {materials.find((m) => m.id === id)?.name ?? id}{' '}
              <button
                type="button"
                className="quietlink"
                aria-label={`Without ${materials.find((m) => m.id === id)?.name ?? id}`}
                onClick={() => put({ ...need, materialIds: without(id) })}
              >
                take it out
              </button>
            </li>
          ))}
        </ul>
      )}
      <Form.Check
        id="need-signing"
        className="mb-2"
        label="Signing others off on this machine (beside the trainer’s role, which a keeper gives)"
        checked={need.forSigning}
        onChange={(e) => put({ ...need, forSigning: e.target.checked })}
      />
    </fieldset>
  )
}
