import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { answer, client, type Schemas } from '../shared/api'
import { Failure, Field, fieldErrors, Loading, Ticket } from '../shared/parts'
import { useMachines, useMaterials } from '../shared/session'
import { lengthIn, useUnit } from '../shared/units'
import { Findings } from './Findings'
import { Mend } from './Mend'
import { Sheet, type Chosen } from './Sheet'

/** One drawing, checked for a machine and a sheet. */
export function CheckView({ id }: { id: string }) {
  const machines = useMachines()
  const unit = useUnit()
  const materials = useMaterials()
  const [machine, setMachine] = useState('')
  const [material, setMaterial] = useState('birch-ply-laser')
  const [thickness, setThickness] = useState('3 mm')
  const [chosen, setChosen] = useState<Chosen>()
  const [mended, setMended] = useState<Schemas['MendAnswer']>()
  const [before, setBefore] = useState(false)
  const machineId = machine || machines.data?.[0]?.id
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
  const errors = fieldErrors(check.error)
  // What was mended was for the sheet and machine of before.
  const changed = (set: (value: string) => void) => (value: string) => {
    set(value)
    setMended(undefined)
  }
  const report = check.data?.report
  const seen = before ? undefined : mended
  if (check.isPending) return <Loading what="the check" />
  if (!report) return <Failure error={check.error} retry={() => void check.refetch()} />
  return (
    <div className="benchgrid">
      <div>
        {lines.data ? (
          <>
            <Sheet
              report={seen ? seen.report : report}
              drawn={seen ? seen.lines : lines.data}
              chosen={chosen}
              choose={setChosen}
            />
            {mended && (
              <div className="turns" role="group" aria-label="Which drawing is shown">
                <Button
                  variant={before ? 'primary' : 'outline-primary'}
                  size="sm"
                  aria-pressed={before}
                  onClick={() => setBefore(true)}
                >
                  Before
                </Button>
                <Button
                  variant={before ? 'outline-primary' : 'primary'}
                  size="sm"
                  aria-pressed={!before}
                  onClick={() => setBefore(false)}
                >
                  Mended
                </Button>
              </div>
            )}
          </>
        ) : lines.isError ? (
          <Failure error={lines.error} />
        ) : (
          <Loading what="the lines" />
        )}
        {lines.data?.cut && (
          <p className="small quiet">The drawing is larger than the screen can show; the check reads all of it.</p>
        )}
      </div>
      <Findings findings={(seen ? seen.report : report).findings} chosen={chosen} choose={setChosen} />
      <Ticket label="Docket">
        <h2>Docket</h2>
        <Choose
          label="Machine"
          id="check-machine"
          error={errors.machineId}
          value={machineId}
          items={machines.data}
          choose={changed(setMachine)}
        />
        <Choose
          label="Material"
          id="check-material"
          error={errors.materialId}
          value={material}
          items={materials.data}
          choose={changed(setMaterial)}
        />
        <Field label="Thickness" id="check-thickness" error={errors.thickness}>
          <Form.Control
            id="check-thickness"
            value={thickness}
            isInvalid={!!errors.thickness}
            onChange={(event) => changed(setThickness)(event.target.value)}
          />
        </Field>
        {check.isError && Object.keys(errors).length === 0 && <Failure error={check.error} />}
        <hr className="dash" />
        <Work report={seen ? seen.report : report} />
        <hr className="dash" />
        <Mend
          key={`${machineId} ${material} ${thickness}`}
          id={id}
          report={report}
          colours={check.data?.colours ?? []}
          sheeting={{ machineId, materialId: material, thickness }}
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

function Choose({
  label,
  id,
  error,
  value,
  items,
  choose,
}: {
  label: string
  id: string
  error: string[] | undefined
  value: string | undefined
  items: { id: string; name: string }[] | undefined
  choose: (id: string) => void
}) {
  return (
    <Field label={label} id={id} error={error}>
      <Form.Select id={id} value={value} onChange={(event) => choose(event.target.value)}>
        {items?.map((item) => (
          <option key={item.id} value={item.id}>
            {item.name}
          </option>
        ))}
      </Form.Select>
    </Field>
  )
}

const minutes = (seconds: number) => `${Math.floor(seconds / 60)}:${String(Math.round(seconds % 60)).padStart(2, '0')}`

function Work({ report }: { report: Schemas['DrawingReport'] }) {
  const unit = useUnit()
  return (
    <>
      <table className="plain docket">
        <thead>
          <tr>
            <th>Colour</th>
            <th>Operation</th>
            <th className="r">Length, {unit}</th>
          </tr>
        </thead>
        <tbody>
          {report.strokes.map((s) => (
            <tr key={s.colour}>
              <td>
                <svg width="12" height="12" aria-hidden="true" className="d-inline-block">
                  <rect x="0.5" y="0.5" width="11" height="11" fill={s.colour} stroke="#24121F" />
                </svg>{' '}
                {s.colour}
              </td>
              <td>
                {s.operation}
                {s.openPaths > 0 && s.operation === 'cut' && <span className="source"> {s.openPaths} open</span>}
              </td>
              <td className="r">{lengthIn(unit, s.lengthMm)}</td>
            </tr>
          ))}
          {report.fills.map((f) => (
            <tr key={`fill ${f.colour}`}>
              <td>
                <svg width="12" height="12" aria-hidden="true" className="d-inline-block">
                  <rect x="0.5" y="0.5" width="11" height="11" fill={f.colour} stroke="#24121F" />
                </svg>{' '}
                {f.colour}
              </td>
              <td>engrave, filled</td>
              <td className="r">
                {unit === 'in' ? `${(f.areaMm2 / 645.16).toFixed(2)} in²` : `${(f.areaMm2 / 100).toFixed(1)} cm²`}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {report.order.length > 1 && (
        <>
          <h3 className="mt-3">Order to run in</h3>
          <ol className="runorder">
            {report.order.map((step) => (
              <li key={`${step.operation} ${step.what}`}>
                <span>
                  {step.operation} {step.lines > 0 ? `${step.lines} ` : ''}
                  {step.what}
                </span>
                {step.lengthMm > 0 && <span className="num">{lengthIn(unit, step.lengthMm)}</span>}
              </li>
            ))}
          </ol>
        </>
      )}
      <p className="sumline">
        <b>Run time, rough</b> <b className="num">{minutes(report.time.runSeconds)}</b>
      </p>
      <p className="small quiet mb-0">
        Page {lengthIn(unit, report.widthMm)} × {lengthIn(unit, report.heightMm)} {unit}. The estimate takes starting
        settings; always start with a test piece.
      </p>
    </>
  )
}
