import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useRef, useState, type DragEvent } from 'react'
import Button from 'react-bootstrap/Button'
import { Link, useNavigate, useParams } from 'react-router'
import { answer, client, fileBody } from '../kit/api'
import { Empty, Failure, fieldErrors, Loading, PageHead, RunOn } from '../kit/parts'
import { drawingsQuery, useSession } from '../kit/session'
import { lengthIn, useUnit } from '../kit/units'
import { Box } from './Box'
import { CheckView, type ChosenSheet } from './CheckView'
import drawingsCss from './drawings.module.css'

/** Put in a drawing; see what is in it and what is wrong with it. */
export function DrawingsPage() {
  const { id } = useParams()
  const navigate = useNavigate()
  const queries = useQueryClient()
  const drawings = useQuery(drawingsQuery)
  const input = useRef<HTMLInputElement>(null)
  const [over, setOver] = useState(false)
  const [chosen, setChosen] = useState<ChosenSheet>({})
  const [leftOut, setLeftOut] = useState<{ of: string; words: string[] }>()
  const add = useMutation({
    mutationFn: (file: File) => answer(client.POST('/api/drawings', fileBody(file))),
    onSuccess: async (made) => {
      await queries.invalidateQueries({ queryKey: ['drawings'] })
      void navigate(`/drawings/${made.id}`)
    },
  })
  const take = (files: FileList | null) => {
    const file = files?.[0]
    if (file) add.mutate(file)
  }
  const drop = (event: DragEvent) => {
    event.preventDefault()
    setOver(false)
    take(event.dataTransfer.files)
  }
  const drawing = drawings.data?.find((d) => d.id === id)
  // What nobody chose is left for the gate to ask: a default is no answer.
  const question = new URLSearchParams({ drawing: id ?? '', ...chosen })
  if (drawing?.operations.length) question.set('operations', drawing.operations.join(','))
  const errors = fieldErrors(add.error)
  const [asking, setAsking] = useState(false)
  const remove = useMutation({
    mutationFn: (gone: string) => answer(client.DELETE('/api/drawings/{id}', { params: { path: { id: gone } } })),
    onSuccess: async () => {
      setAsking(false)
      void navigate('/drawings')
      await queries.invalidateQueries({ queryKey: ['drawings'] })
    },
  })
  return (
    <div
      className={over ? drawingsCss.dropping : ''}
      onDragOver={(event) => {
        event.preventDefault()
        setOver(true)
      }}
      onDragLeave={() => setOver(false)}
      onDrop={drop}
    >
      <PageHead title="Drawings" sub={drawing?.name ?? 'Add a drawing, and see what is in it.'}>
        <input
          ref={input}
          type="file"
          accept=".svg,.svgz,.dxf,.png,.jpg,.jpeg,image/svg+xml,image/vnd.dxf,image/png,image/jpeg"
          className="visually-hidden"
          aria-label="Choose a drawing: SVG, DXF, PNG or JPEG"
          tabIndex={-1}
          onChange={(event) => {
            take(event.target.files)
            event.target.value = ''
          }}
        />
        <Button variant="outline-primary" onClick={() => input.current?.click()} disabled={add.isPending}>
          {add.isPending ? 'Reading …' : id ? 'Add another drawing' : 'Add a drawing'}
        </Button>
        {id && (
          <Link className="btn btn-primary" to={`/ask?${question}`}>
            Take it to the gate
          </Link>
        )}
      </PageHead>
      {drawing?.nameSaysLittle && (
        <p className="mt-2 quiet">
          Its name says little, and the queue at the machine shows nothing else: give the file a name that says what it
          is, for which sheet, and add it again.
        </p>
      )}
      {add.isError && (
        <div className="mt-3" data-field="file">
          <Failure error={errors.file ? new Error(errors.file.join(' ')) : add.error} />
        </div>
      )}
      {id ? (
        <>
          {leftOut?.of === id && leftOut.words.length > 0 && (
            <p className="mt-3" role="status">
              <b>Not in this drawing:</b> {leftOut.words.join(', ')}. Turn them into lines in the first one, and lay it
              again.
            </p>
          )}
          <CheckView
            key={id}
            id={id}
            asked={chosen}
            ask={setChosen}
            open={(made, missing) => {
              setLeftOut({ of: made, words: missing })
              void navigate(`/drawings/${made}`)
            }}
          />
          {drawing && (
            <p className="mt-3">
              {asking ? (
                <>
                  Delete {drawing.name} for good?{' '}
                  <Button
                    size="sm"
                    variant="outline-danger"
                    disabled={remove.isPending}
                    onClick={() => remove.mutate(id)}
                  >
                    Delete it
                  </Button>{' '}
                  <Button size="sm" variant="outline-primary" onClick={() => setAsking(false)}>
                    Keep it
                  </Button>
                </>
              ) : (
                <button type="button" className="quietlink" onClick={() => setAsking(true)}>
                  Delete this drawing
                </button>
              )}
            </p>
          )}
          {remove.isError && <Failure error={remove.error} />}
        </>
      ) : (
        <>
          <Drawings
            loading={drawings.isPending}
            error={drawings.error}
            items={drawings.data ?? []}
            choose={() => input.current?.click()}
          />
          <Box
            open={(made, thickness) => {
              setChosen((before) => ({ ...before, thickness }))
              void navigate(`/drawings/${made}`)
            }}
          />
        </>
      )}
    </div>
  )
}

function Drawings({
  loading,
  error,
  items,
  choose,
}: {
  loading: boolean
  error: unknown
  items: { id: string; name: string; at: string; widthMm: number; heightMm: number; operations: string[] }[]
  choose: () => void
}) {
  const { time } = useSession()
  const unit = useUnit()
  if (loading) return <Loading what="your drawings" />
  if (error) return <Failure error={error} />
  if (items.length === 0)
    return (
      <section className="mt-3">
        <RunOn title="Your drawings" after={0} />
        <Empty title="No drawing yet" action={{ text: 'Choose a file', onClick: choose }}>
          Drop an SVG, DXF, PNG or JPEG file here. Its true size, lengths and faults are read; nothing is changed.
        </Empty>
      </section>
    )
  return (
    <section className="mt-3">
      <RunOn title="Your drawings" after={items.length} />
      <table className="plain">
        <thead>
          <tr>
            <th>Drawing</th>
            <th className="r">Page, {unit}</th>
            <th>Contents</th>
            <th>Added</th>
          </tr>
        </thead>
        <tbody>
          {items.map((d) => (
            <tr key={d.id}>
              <td>
                <Link to={`/drawings/${d.id}`}>{d.name}</Link>
              </td>
              <td className="r">
                {lengthIn(unit, d.widthMm)} × {lengthIn(unit, d.heightMm)}
              </td>
              <td>{d.operations.join(', ') || 'colours without an operation yet'}</td>
              <td>{time.moment(d.at)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  )
}
