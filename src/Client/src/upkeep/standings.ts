import type { Schemas } from '../kit/api'
import type { StandingWord } from '../kit/Standing'

/** What a fault does, with the same sign as the gate has for it. */
export function standingOfFault(standing: Schemas['FaultMade']['standing']): { standing: StandingWord; word: string } {
  return {
    none: { standing: 'clear' as const, word: 'Runs' },
    caution: { standing: 'caution' as const, word: 'Only if' },
    asks: { standing: 'ask' as const, word: 'Needs a steward' },
    stops: { standing: 'shut' as const, word: 'Stopped' },
  }[standing]
}
