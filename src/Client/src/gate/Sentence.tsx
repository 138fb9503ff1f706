import type { SentenceProps } from './blankProps'
import { DrawingBlank, MachineBlank } from './MachineBlanks'
import { Operations, Sheet } from './SheetBlanks'
import { Time } from './TimeBlanks'
import { Person, Supervisor } from './WhoBlanks'

/** The question as a sentence with blanks. */
export function Sentence({ state, change, errors, shut }: SentenceProps) {
  return (
    <p className="sentence">
      May <Person {...{ state, change, errors, shut }} /> <Operations {...{ state, change, errors, shut }} />{' '}
      <Sheet {...{ state, change, errors, shut }} /> on <MachineBlank {...{ state, change, errors, shut }} />
      <Supervisor {...{ state, change, errors, shut }} /> with <DrawingBlank {...{ state, change, errors, shut }} /> on{' '}
      <Time {...{ state, change, errors, shut }} />?
    </p>
  )
}
