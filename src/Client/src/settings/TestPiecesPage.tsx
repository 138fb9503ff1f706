import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { Link, useSearchParams } from 'react-router'
import { answer, client } from '../kit/api'
import { pieceName } from '../kit/names'
import { Empty, Failure, fieldErrors, Loading, PageHead, RunOn } from '../kit/parts'
import { useMachines, useMaterials, useSession } from '../kit/session'
import { lengthIn, useUnit } from '../kit/units'
import { Choice } from './Choice'
import { Piece } from './Piece'
import css from './settings.module.css'
import pieceCss from './pieces.module.css'

const kinds = [
  { id: 'cut', name: 'cut row' },
  { id: 'engrave', name: 'engraving swatch' },
  { id: 'kerf', name: 'kerf comb' },
  { id: 'focus', name: 'focus lines' },
  { id: 'joint', name: 'joint ladder' },
]

/** Test pieces: made for the sheet at hand, cut, and told. */
export function TestPiecesPage() {
  const [params, setParams] = useSearchParams()
  const { time } = useSession()
  const unit = useUnit()
  const machines = useMachines()
  const materials = useMaterials()
  const queries = useQueryClient()
  const [kind, setKind] = useState('cut')
  const [typed, setTyped] = useState({ thickness: params.get('thickness') ?? '', tag: params.get('tag') ?? '' })
  const machine = params.get('machine') ?? ''
  const material = params.get('material') ?? ''
  const shown = params.get('piece')
  const put = (name: string, value: string) => {
    params.set(name, value)
    setParams(params, { replace: true })
  }
  const list = useQuery({
    queryKey: ['live', 'test-pieces', machine, material],
    queryFn: ({ signal }) =>
      answer(
        client.GET('/api/test-pieces', {
          params: { query: { machineId: machine || undefined, materialId: material || undefined } },
          signal,
        }),
      ),
  })
  const make = useMutation({
    mutationFn: () =>
      answer(
        client.POST('/api/test-pieces', {
          body: {
            kind,
            machineId: machine,
            materialId: material,
            thickness: typed.thickness,
            sheetTag: typed.tag || null,
            unit,
          },
        }),
      ),
    onSuccess: (piece) => {
      put('piece', piece.id)
      return queries.invalidateQueries({ queryKey: ['live', 'test-pieces'] })
    },
  })
  const errors = fieldErrors(make.error)
  const wrong = Object.values(errors).flat()
  return (
    <>
      <PageHead title="Test pieces" sub="A small piece first: it costs less than a sheet">
        <Link to={`/materials/settings?${params}`}>Settings</Link>
        <Link to="/materials/calculators">Calculators</Link>
      </PageHead>
      <Form
        className={css.question}
        aria-label="A new test piece"
        onSubmit={(event) => {
          event.preventDefault()
          make.mutate()
        }}
      >
        <span>A</span>
        <Choice label="Kind of piece" value={kind} put={setKind} options={kinds} />
        <span>of</span>
        <Choice
          label="Material"
          value={material}
          put={(value) => put('material', value)}
          none="choose a material"
          options={materials.data ?? []}
        />
        <span>measured</span>
        <Form.Control
          size="sm"
          aria-label="Thickness measured, the thinnest place"
          placeholder={unit === 'in' ? '1/8 in' : '2.9 mm'}
          value={typed.thickness}
          isInvalid={!!errors.thickness}
          onChange={(e) => setTyped({ ...typed, thickness: e.target.value })}
        />
        <span>from</span>
        <Form.Control
          size="sm"
          aria-label="Tag of the sheet or offcut"
          placeholder="no tag"
          value={typed.tag}
          isInvalid={!!errors.sheetTag}
          onChange={(e) => setTyped({ ...typed, tag: e.target.value })}
        />
        <span>on</span>
        <Choice
          label="Machine"
          value={machine}
          put={(value) => put('machine', value)}
          none="choose a machine"
          options={machines.data ?? []}
        />
        <Button type="submit" size="sm" disabled={make.isPending}>
          Make it
        </Button>
        {wrong.length > 0 && (
          <span className="invalid-feedback d-block" role="alert">
            {wrong.join(' ')}
          </span>
        )}
      </Form>
      {wrong.length === 0 && <Failure error={make.error} />}
      <div className={pieceCss.pieces}>
        <section>
          <RunOn title="Newest" after={list.data?.items.length} />
          {list.isPending && <Loading what="the test pieces" />}
          <Failure error={list.error} retry={() => void list.refetch()} />
          {list.data?.items.length === 0 && (
            <Empty title="None yet">The pieces that people made for this machine and material stand here.</Empty>
          )}
          <ul className={pieceCss.list}>
            {list.data?.items.map((p) => (
              <li key={p.id} aria-current={p.id === shown}>
                <button type="button" className="quietlink" onClick={() => put('piece', p.id)}>
                  {pieceName(p.number)}, {kinds.find((k) => k.id === p.kind)?.name}
                </button>
                <span className={css.quiet}>
                  {materials.data?.find((m) => m.id === p.materialId)?.name}, {lengthIn(unit, p.thicknessMm)} {unit},{' '}
                  {machines.data?.find((m) => m.id === p.machineId)?.name}
                </span>
                <span className={css.quiet}>
                  {time.moment(p.at)}, {p.by}
                  {p.told ? '' : ', not told yet'}
                </span>
              </li>
            ))}
          </ul>
        </section>
        {shown ? (
          <Piece key={shown} id={shown} />
        ) : (
          <section>
            <RunOn title="What they are for" />
            <p className="quiet mt-2">
              A cut row finds the least energy that is through. Swatches show how engraving looks. A kerf comb measures
              what the beam takes away. Focus lines find the finest spot. A joint ladder finds the slot that holds.
            </p>
            <p className="quiet">
              A test piece flares like any job: lid shut, extraction on, somebody at the stop until it is done.
            </p>
          </section>
        )}
      </div>
    </>
  )
}
