import type { Schemas } from '../kit/api'
import { Standing } from '../kit/Standing'

const words = {
  never: ['Never', 'shut'],
  banned: ['Banned', 'shut'],
  permitted: ['Permitted', 'clear'],
  byArrangement: ['By arrangement', 'ask'],
} as const

/** What a house says of a material, in one word. What a machine cannot do is no standing, and has no shape. */
export function StandingWord({ standing }: { standing: Schemas['RulingStatus'] }) {
  if (standing === 'cannot') return <b>Cannot</b>
  const [word, shape] = words[standing]
  return <Standing standing={shape} word={word} width={18} />
}
