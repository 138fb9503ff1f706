import type { AskState } from './askState'

export interface SentenceProps {
  state: AskState
  change: (to: Partial<AskState>) => void
  errors: Record<string, string[]>
  shut: Set<string>
  /** Tells the blanks of one item from those of another: “ 2” for the second. */
  nth?: string
}

/** Minutes go out as a number; whether it is a sensible one, the server says. */
export const notANumber = (text: string) =>
  text === '' || Number.isFinite(Number(text)) ? null : 'Write minutes as a number, such as 18.'
