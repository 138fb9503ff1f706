import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { Link } from 'react-router'
import { answer, client, type Schemas } from '../kit/api'
import { pieceName } from '../kit/names'
import { Failure, Field, fieldErrors, Loading, RunOn } from '../kit/parts'
import { lengthIn, useUnit } from '../kit/units'
import { Cells, type Told } from './Cells'
import { Fit } from './Fit'
import { askWith } from './Suggested'
import pieceCss from './pieces.module.css'

/** One piece: its drawing, what to set, and how it came out. */
export function Piece({ id }: { id: string }) {
  const unit = useUnit()
  const piece = useQuery({
    queryKey: ['live', 'test-piece', id],
    queryFn: ({ signal }) => answer(client.GET('/api/test-pieces/{id}', { params: { path: { id } }, signal })),
  })
  if (piece.isPending) return <Loading what="the test piece" />
  if (!piece.data) return <Failure error={piece.error} retry={() => void piece.refetch()} />
  const p = piece.data
  return (
    <section>
      <RunOn
        title={pieceName(p.number)}
        after={`${lengthIn(unit, p.widthMm)} x ${lengthIn(unit, p.heightMm)} ${unit}`}
      />
      <img
        className={pieceCss.drawing}
        src={`/api/test-pieces/${id}.svg`}
        alt={`The piece: ${p.cells.length} cells, its outline is cut last`}
      />
      <p>
        <a href={`/api/test-pieces/${id}.svg`} download={`${pieceName(p.number)}.svg`}>
          Download the SVG
        </a>
      </p>
      <details>
        <summary>What to set, colour by colour</summary>
        <ul className={pieceCss.card}>
          {p.card.slice(1).map((line) => (
            <li key={line}>
              <i style={{ background: /#[0-9a-f]{6}/.exec(line)?.[0] }} aria-hidden="true" />
              {line}
            </li>
          ))}
        </ul>
      </details>
      <p className="quiet mt-2">
        {p.card[0]} A test piece flares like any job: lid shut, extraction on, somebody at the stop.
      </p>
      {p.result ? <Result piece={p} result={p.result} /> : <Tell piece={p} />}
    </section>
  )
}

function Tell({ piece }: { piece: Schemas['TestPieceResponse'] }) {
  const unit = useUnit()
  const queries = useQueryClient()
  const [cells, setCells] = useState<Record<string, Told>>({})
  const [typed, setTyped] = useState('')
  const told = piece.cells.filter((c) => cells[c.label])
  const tell = useMutation({
    mutationFn: () =>
      answer(
        client.POST('/api/test-pieces/{id}/results', {
          params: { path: { id: piece.id } },
          body:
            piece.kind === 'cut'
              ? {
                  cells: told.map((c) => ({
                    energyJPerMm: c.jPerMm ?? 0,
                    through: cells[c.label] !== 'stayed',
                    charred: cells[c.label] === 'charred',
                  })),
                }
              : piece.kind === 'kerf'
                ? { measured: typed, unit }
                : { chosen: typed },
        }),
      ),
    onSuccess: () => queries.invalidateQueries({ queryKey: ['live'] }),
  })
  const errors = fieldErrors(tell.error)
  return (
    <Form
      onSubmit={(event) => {
        event.preventDefault()
        tell.mutate()
      }}
    >
      <RunOn title="How did it come out?" />
      {piece.kind === 'cut' && (
        <Cells cells={piece.cells} told={cells} tell={(label, to) => setCells({ ...cells, [label]: to })} />
      )}
      {piece.kind === 'kerf' && (
        <Field label="All parts pushed together measure" id="measured" error={errors.measured}>
          <Form.Control
            id="measured"
            value={typed}
            placeholder={unit === 'in' ? '3.85 in' : '97.8 mm'}
            onChange={(e) => setTyped(e.target.value)}
          />
        </Field>
      )}
      {['engrave', 'focus', 'joint'].includes(piece.kind) && (
        <Field label="The best of them" id="chosen" error={errors.chosen}>
          <Form.Select id="chosen" value={typed} onChange={(e) => setTyped(e.target.value)}>
            <option value="">choose</option>
            {piece.cells.map((c) => (
              <option key={c.label}>{c.label}</option>
            ))}
          </Form.Select>
        </Field>
      )}
      {errors.cells && (
        <p className="invalid-feedback d-block" role="alert">
          {errors.cells.join(' ')}
        </p>
      )}
      {Object.keys(errors).length === 0 && <Failure error={tell.error} />}
      <Button type="submit" disabled={tell.isPending}>
        Tell the result
      </Button>
    </Form>
  )
}

function Result({ piece, result }: { piece: Schemas['TestPieceResponse']; result: Schemas['PieceResultResponse'] }) {
  const unit = useUnit()
  const kept = result.recommended
  const ask =
    kept?.settingId &&
    askWith(
      {
        operation: kept.operation,
        materialId: piece.materialId,
        machineId: piece.machineId,
        thickness: `${piece.thicknessMm} mm`,
      },
      kept.settingId,
      piece.sheetTag,
    )
  return (
    <>
      <RunOn title="What it says" />
      {result.boundary && <Fit cells={result.cells} boundary={result.boundary} kept={kept?.jPerMm ?? null} />}
      {kept ? (
        <p>
          <b>
            Set {kept.powerPercent} %, {kept.speedMmPerS} mm/s, {kept.passes} {kept.passes === 1 ? 'pass' : 'passes'}
          </b>
          , {kept.jPerMm} J/mm: {result.says}.{' '}
          {result.kept ? 'It stands in the library now, tested.' : (result.whyNotKept ?? 'It is not in the library.')}{' '}
          {ask && <Link to={ask}>Ask the gate with this setting</Link>}
        </p>
      ) : result.kerfMm ? (
        <p>
          <b>
            Kerf {lengthIn(unit, result.kerfMm)} {unit}
          </b>
          : {result.says}. Draw a slot for this sheet {lengthIn(unit, result.slotMm ?? 0)} {unit} wide.{' '}
          <Link
            to={`/drawings?${new URLSearchParams({ kerf: `${result.kerfMm} mm`, sheet: `${piece.thicknessMm} mm` })}`}
          >
            Draw a box with it
          </Link>
        </p>
      ) : result.slotMm ? (
        <p>
          <b>
            Draw your slots {lengthIn(unit, result.slotMm)} {unit} wide
          </b>
          : {result.says}.
        </p>
      ) : result.focusMm != null ? (
        <p>
          <b>
            Focus {lengthIn(unit, Math.abs(result.focusMm))} {unit} {result.focusMm < 0 ? 'above' : 'below'} the face
          </b>
          : {result.says}.
        </p>
      ) : (
        <p>{result.says}</p>
      )}
    </>
  )
}
