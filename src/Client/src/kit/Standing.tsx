export type StandingWord = 'clear' | 'caution' | 'ask' | 'shut'
export type VerdictWord = 'open' | 'conditions' | 'ask' | 'shut'

export const standingWords: Record<StandingWord, string> = {
  clear: 'OK',
  caution: 'Only if',
  ask: 'Needs a steward',
  shut: 'Shut',
}
export const verdictWords: Record<VerdictWord, string> = {
  open: 'Open',
  conditions: 'Open, with conditions',
  ask: 'Needs a steward',
  shut: 'Shut',
}
export const standingOf: Record<VerdictWord, StandingWord> = {
  open: 'clear',
  conditions: 'caution',
  ask: 'ask',
  shut: 'shut',
}
const css: Record<StandingWord, string> = { clear: 'open', caution: 'cond', ask: 'ask', shut: 'shut' }

/** The small gate on a 24 x 18 grid: how high the rope hangs says how hard the gate is. Always beside its word. */
export function StandingGlyph({ standing, width = 20 }: { standing: StandingWord | 'unknown'; width?: number }) {
  return (
    <svg width={width} height={(width * 18) / 24} viewBox="0 0 24 18" aria-hidden="true">
      {standing === 'clear' && (
        <path
          d="M3 5.5C7.5 7 5 15.2 9 15.2H16"
          fill="none"
          stroke="currentColor"
          strokeWidth="2.4"
          strokeLinecap="round"
        />
      )}
      {standing === 'caution' && (
        <>
          <path d="M3 5.5Q12 12.5 21 5.5" fill="none" stroke="currentColor" strokeWidth="2" />
          <path d="M12 8.6l3 2.2v6.2h-6v-6.2z" fill="currentColor" />
        </>
      )}
      {standing === 'ask' && (
        <>
          <path d="M3 5.5Q12 8.5 21 5.5" fill="none" stroke="currentColor" strokeWidth="2" />
          <path d="M7.6 14.2q1.6-1.2 1.6-3.6 0-2.9 2.8-2.9t2.8 2.9q0 2.4 1.6 3.6z" fill="currentColor" />
          <circle cx="12" cy="15.8" r="1.5" fill="currentColor" />
        </>
      )}
      {standing === 'shut' && <path d="M3 8H21" stroke="currentColor" strokeWidth="5" />}
      {standing === 'unknown' ? (
        <path d="M3 3V16M21 3V16" stroke="currentColor" strokeWidth="2" strokeDasharray="2 2" />
      ) : (
        <>
          <path d="M3 3V16M21 3V16" stroke="currentColor" strokeWidth="2" />
          <circle cx="3" cy="2.6" r="2.1" fill="currentColor" />
          <circle cx="21" cy="2.6" r="2.1" fill="currentColor" />
        </>
      )}
    </svg>
  )
}

export function Standing({ standing, word, width }: { standing: StandingWord; word?: string; width?: number }) {
  return (
    <span className={`stand ${css[standing]}`}>
      <StandingGlyph standing={standing} width={width} />
      {word ?? standingWords[standing]}
    </span>
  )
}

export const standClass = (standing: StandingWord) => `stand ${css[standing]}`
