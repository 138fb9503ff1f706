import { Link } from 'react-router'
import { useMaterials, useMachines, useSession } from '../kit/session'
import { itemsOf, type AskState } from './askState'
import sentenceCss from './sentence.module.css'

const kept = (member: string) => `velvetgate.lastQuestion.${member}`

interface LastQuestion {
  search: string
  words: string
}

/** Keeps a question that was answered, without its time: most come back with the same sheet. */
export function keepQuestion(member: string, search: string, words: string) {
  const params = new URLSearchParams(search)
  for (const key of ['start', 'date', 'minutes', 'asked']) params.delete(key)
  try {
    localStorage.setItem(kept(member), JSON.stringify({ search: params.toString(), words } satisfies LastQuestion))
  } catch {
    // A browser that keeps nothing has no last question.
  }
}

function lastQuestion(member: string): LastQuestion | null {
  try {
    return JSON.parse(localStorage.getItem(kept(member)) ?? 'null') as LastQuestion | null
  } catch {
    return null
  }
}

/** The question in a few words: what is to run where. */
export function useQuestionWords(state: AskState) {
  const materials = useMaterials()
  const machines = useMachines()
  const machine = machines.data?.find((m) => m.id === state.machine)?.name
  const things = itemsOf(state).map(
    (i) =>
      `${i.operations.join(' and ')} ${i.thickness} ${materials.data?.find((m) => m.id === i.material)?.name.toLowerCase() ?? i.material}`,
  )
  return machine && materials.data ? `${things.join(', ')} on ${machine}` : null
}

/** Where a question starts for somebody who has filled in nothing yet. */
export function FirstDoors() {
  const { me } = useSession()
  const last = lastQuestion(me.memberId)
  const tag = () => document.querySelector<HTMLButtonElement>('[data-blank="Sheet tag"]')?.click()
  return (
    <section className={sentenceCss.firstdoors} aria-label="Where to start">
      <Link className="btn btn-outline-primary" to="/drawings">
        I have a drawing
      </Link>
      <button type="button" className="btn btn-outline-primary" onClick={tag}>
        I have a sheet
      </button>
      <Link className="btn btn-outline-primary" to="/bookings">
        I only want a time
      </Link>
      {last && (
        <Link className="btn btn-outline-primary" to={`/ask?${last.search}`}>
          The last question again: {last.words}
        </Link>
      )}
    </section>
  )
}
