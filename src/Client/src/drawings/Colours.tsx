import { useMutation, useQueryClient } from '@tanstack/react-query'
import Button from 'react-bootstrap/Button'
import { answer, client, type Schemas } from '../kit/api'
import { Failure } from '../kit/parts'
import { Swatch } from './Work'
import drawingsCss from './drawings.module.css'

const operations = [
  ['cut', 'Cut'],
  ['score', 'Score'],
  ['engrave', 'Engrave'],
  ['ignore', 'Leave out'],
] as const

/** Colours that the house gives no operation: each gets one in one press, for this drawing. */
export function ColoursOf({ id, check }: { id: string; check: Schemas['CheckResponse'] | undefined }) {
  const queries = useQueryClient()
  const put = useMutation({
    mutationFn: (body: { colour: string; operation: string | null }) =>
      answer(client.PUT('/api/drawings/{id}/colours', { params: { path: { id } }, body })),
    onSettled: async () => {
      await queries.invalidateQueries({ queryKey: ['live', 'check', id] })
      await queries.invalidateQueries({ queryKey: ['drawing-lines', id] })
      await queries.invalidateQueries({ queryKey: ['timeline', id] })
      await queries.invalidateQueries({ queryKey: ['drawings'] })
    },
  })
  if (!check) return null
  const unknown = check.report.strokes.filter((s) => s.operation === 'unknown')
  const { own, mine } = check
  return (
    <div className="colours">
      {unknown.map(({ colour }) => (
        <div
          key={colour}
          className={drawingsCss.colourask}
          role="group"
          aria-label={`What ${colour} does in this drawing`}
        >
          <span>
            <Swatch colour={colour} /> {mine ? 'in this drawing:' : 'has no operation; its owner can give it one.'}
          </span>
          {mine &&
            operations.map(([operation, word]) => (
              <Button
                key={operation}
                size="sm"
                variant="outline-primary"
                disabled={put.isPending}
                onClick={() => put.mutate({ colour, operation })}
              >
                {word}
              </Button>
            ))}
        </div>
      ))}
      {own.map(({ colour, operation }) => (
        <p key={colour} className="small mb-1">
          <Swatch colour={colour} /> {operation === 'ignore' ? 'left out' : operation}, for this drawing only.{' '}
          {mine && (
            <button
              type="button"
              className="quietlink"
              disabled={put.isPending}
              onClick={() => put.mutate({ colour, operation: null })}
            >
              Take it back
            </button>
          )}
        </p>
      ))}
      {put.isError && <Failure error={put.error} />}
      <p className="small quiet mb-0">
        <a href={`/api/drawings/${id}/colours/file`} download>
          Colours as a text file
        </a>
        , to set the same at the machine.
      </p>
    </div>
  )
}
