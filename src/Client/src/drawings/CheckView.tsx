import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { Link } from 'react-router'
import { answer, client, type Schemas } from '../kit/api'
import { Failure, Field, fieldErrors, Loading, Ticket } from '../kit/parts'
import { useMachines, useMaterials } from '../kit/session'
import { useUnit } from '../kit/units'
import { Clamps, useClamps } from './Clamps'
import { ColoursOf } from './Colours'
import { Findings } from './Findings'
import { Mend } from './Mend'
import { OnSheet } from './OnSheet'
import { Scrub, useRun } from './Scrub'
import { Sheet, type Chosen } from './Sheet'
import { Work } from './Work'
import drawingsCss from './drawings.module.css'

/** What a person chose of the sheet and machine, under the names the gate asks by. */
export type ChosenSheet = Partial<Record<'machine' | 'material' | 'thickness' | 'tag', string>>

/** One drawing, checked for a machine and a sheet. */
export function CheckView({
  id,
  asked,
  ask,
  open,
}: {
  id: string
  asked: ChosenSheet
  ask: (chosen: ChosenSheet) => void
  /** Shows another drawing that was made of this one, and says what it does not hold of it. */
  open: (drawing: string, leftOut: string[]) => void
}) {
  const machines = useMachines()
  const unit = useUnit()
  const materials = useMaterials()
  const [chosen, setChosen] = useState<Chosen>()
  const [mended, setMended] = useState<Schemas['MendResponse']>()
  const [before, setBefore] = useState(false)
  const [marking, setMarking] = useState(false)
  const machineId = asked.machine ?? machines.data?.[0]?.id
  const material = asked.material ?? 'birch-ply-laser'
  const thickness = asked.thickness ?? '3 mm'
  const check = useQuery({
    queryKey: ['live', 'check', id, machineId, material, thickness, unit],
    queryFn: ({ signal }) =>
      answer(
        client.GET('/api/drawings/{id}/check', {
          params: { path: { id }, query: { machineId, materialId: material, thickness, unit } },
          signal,
        }),
      ),
    enabled: !!machineId,
    placeholderData: keepPreviousData,
    retry: false,
  })
  const lines = useQuery({
    queryKey: ['drawing-lines', id],
    queryFn: ({ signal }) => answer(client.GET('/api/drawings/{id}/lines', { params: { path: { id } }, signal })),
    staleTime: Infinity,
  })
  const sheeting = { machineId: machineId ?? '', materialId: material, thickness }
  const run = useRun(id, sheeting, unit)
  const clamps = check.data?.clamps ?? []
  const edit = useClamps(id, clamps)
  const errors = fieldErrors(check.error)
  // What was mended was for the sheet and machine of before.
  const changed = (what: keyof ChosenSheet) => (value: string) => {
    const { tag, ...rest } = asked
    // The sheet that was chosen is for its own material and thickness.
    ask({ ...rest, ...(what === 'machine' && tag && { tag }), [what]: value })
    setMended(undefined)
  }
  const report = check.data?.report
  const seen = before ? undefined : mended
  if (check.isPending) return <Loading what="the check" />
  if (!report) return <Failure error={check.error} retry={() => void check.refetch()} />
  return (
    <div className={drawingsCss.drawinggrid}>
      <div>
        {lines.data ? (
          <>
            <Sheet
              id={id}
              report={seen ? seen.report : report}
              drawn={seen ? seen.lines : lines.data}
              chosen={chosen}
              choose={setChosen}
              clamps={clamps}
              watched={seen ? undefined : run.watched}
              mark={
                marking
                  ? (x, y) => {
                      setMarking(false)
                      edit.add({ x: `${x.toFixed(1)} mm`, y: `${y.toFixed(1)} mm` })
                    }
                  : undefined
              }
            />
            {!seen && <Scrub of={run} />}
            {mended && (
              <div className={drawingsCss.turns} role="group" aria-label="Which drawing is shown">
                {[true, false].map((first) => (
                  <Button
                    key={String(first)}
                    variant={before === first ? 'primary' : 'outline-primary'}
                    size="sm"
                    aria-pressed={before === first}
                    onClick={() => setBefore(first)}
                  >
                    {first ? 'Before' : 'Mended'}
                  </Button>
                ))}
              </div>
            )}
            {check.data?.mine && (
              <Clamps
                clamps={clamps}
                upwards={lines.data.upwards}
                edit={edit}
                marking={marking}
                setMarking={setMarking}
              />
            )}
          </>
        ) : lines.isError ? (
          <Failure error={lines.error} />
        ) : (
          <Loading what="the lines" />
        )}
        {machineId && (
          <OnSheet
            id={id}
            sheeting={sheeting}
            placed={(drawing, tag, leftOut) => {
              ask({ machine: machineId, material, thickness, tag })
              open(drawing, leftOut)
            }}
          />
        )}
        <p className="small mt-2">
          <a href={`/api/drawings/${id}/parts.svg`}>Numbered map of the parts</a>, to know them by once they lie on the
          table. <a href={`/api/drawings/${id}/file`}>The file as it was given</a>
        </p>
        <p className="small">
          Wrapped round something?{' '}
          <Link to={`/materials/calculators/rotary?height=${encodeURIComponent(`${report.widthMm} mm`)}`}>
            Its page
          </Link>
          . Parts that join?{' '}
          <Link to={`/materials/calculators/slot?sheet=${encodeURIComponent(thickness)}`}>The slot for your sheet</Link>
          .
        </p>
        {lines.data?.cut && (
          <p className="small quiet">The drawing is larger than the screen can show; the check reads all of it.</p>
        )}
      </div>
      <Findings report={seen ? seen.report : report} chosen={chosen} choose={setChosen} />
      <Ticket label="Docket">
        <h2>Docket</h2>
        {(
          [
            ['machine', 'Machine', errors.machineId, machineId, machines.data],
            ['material', 'Material', errors.materialId, material, materials.data],
          ] as const
        ).map(([key, label, error, value, items]) => (
          <Field key={key} label={label} id={`check-${key}`} error={error}>
            <Form.Select id={`check-${key}`} value={value} onChange={(event) => changed(key)(event.target.value)}>
              {items?.map((item) => (
                <option key={item.id} value={item.id}>
                  {item.name}
                </option>
              ))}
            </Form.Select>
          </Field>
        ))}
        <Field label="Thickness" id="check-thickness" error={errors.thickness}>
          <Form.Control
            id="check-thickness"
            value={thickness}
            isInvalid={!!errors.thickness}
            onChange={(event) => changed('thickness')(event.target.value)}
          />
        </Field>
        {check.isError && Object.keys(errors).length === 0 && <Failure error={check.error} />}
        <hr className="dash" />
        <Work report={seen ? seen.report : report} colours={<ColoursOf id={id} check={check.data} />} />
        <hr className="dash" />
        <Mend
          key={`${machineId} ${material} ${thickness}`}
          id={id}
          report={report}
          colours={check.data?.colours ?? []}
          sheeting={sheeting}
          shown={mended}
          show={(made) => {
            setMended(made)
            setBefore(false)
            setChosen(undefined)
          }}
        />
      </Ticket>
    </div>
  )
}
