import { useState, type KeyboardEvent } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import type { Schemas } from '../../kit/api'
import { useSession } from '../../kit/session'
import practicalCss from './practical.module.css'

type Word = Schemas['StepMark']
const words: readonly (readonly [Word, string, string])[] = [
  ['unprompted', 'Unprompted', 'u'],
  ['prompted', 'Prompted', 'p'],
  ['missed', 'Missed', 'm'],
]

/** One step: large enough for a thumb, and by the keys u, p and m. */
export function PracticalStep({
  number,
  step,
  seen,
  mark,
}: {
  number: number
  step: Schemas['PracticalStep']
  seen?: { mark: Word; note?: string | null; at: string; by: string; waiting: boolean }
  /** Only for those who may. */
  mark?: (word: Word, note?: string) => void
}) {
  const { time } = useSession()
  const [note, setNote] = useState<string | null>(null)
  const press = (event: KeyboardEvent<HTMLLIElement>) => {
    const word = words.find(([, , key]) => key === event.key)
    if (!mark || !word || event.ctrlKey || event.metaKey || event.target instanceof HTMLTextAreaElement) return
    event.preventDefault()
    mark(word[0])
    const following = event.currentTarget.nextElementSibling?.querySelector<HTMLElement>('button')
    following?.focus()
  }
  return (
    <li className={practicalCss.pstep} data-step={step.id} data-mark={seen?.mark} onKeyDown={press}>
      <div className="ptext">
        {step.critical ? <b>{step.text}</b> : step.text}
        {step.critical && <span className="visually-hidden"> (critical)</span>}
        {seen && (
          <span className="small quiet d-block">
            {seen.waiting ? 'on this device, ' : ''}
            {time.clock(seen.at)}
            {seen.by && `, ${seen.by}`}
            {seen.note && <em className="d-block">{seen.note}</em>}
          </span>
        )}
      </div>
      <div className={practicalCss.pmarks} role="group" aria-label={`Step ${number}`}>
        {words.map(([word, name]) =>
          mark ? (
            <button
              key={word}
              type="button"
              className={`${practicalCss.pmark} ${word}`}
              aria-pressed={seen?.mark === word}
              onClick={() => mark(word)}
            >
              {name}
            </button>
          ) : (
            seen?.mark === word && (
              <span key={word} className={`${practicalCss.pmark} ${word}`}>
                {name}
              </span>
            )
          ),
        )}
        {mark && (
          <button
            type="button"
            className="quietlink"
            aria-label={`Step ${number}: a note`}
            onClick={() => setNote(note === null ? (seen?.note ?? '') : null)}
          >
            note
          </button>
        )}
      </div>
      {mark && note !== null && (
        <div className={practicalCss.pnote}>
          <Form.Control
            as="textarea"
            rows={2}
            maxLength={500}
            aria-label={`Note on step ${number}`}
            value={note}
            onChange={(e) => setNote(e.target.value)}
          />
          <Button
            size="sm"
            variant="outline-primary"
            disabled={!seen || !note.trim()}
            onClick={() => {
              if (seen) mark(seen.mark, note.trim())
              setNote(null)
            }}
          >
            {seen ? 'Keep the note' : 'Mark the step first'}
          </Button>
        </div>
      )}
    </li>
  )
}
