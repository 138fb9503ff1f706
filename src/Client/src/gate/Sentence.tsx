import { emptyItem, itemsOf, mostItems, withoutSettings, type AskState } from './askState'
import type { SentenceProps } from './blankProps'
import { DrawingBlank, MachineBlank } from './MachineBlanks'
import { RoundBlank } from './RoundBlank'
import { SettingBlank } from './SettingBlank'
import { Operations, Sheet } from './SheetBlanks'
import { Bench } from './BenchBlank'
import { Time } from './TimeBlanks'
import { Person, Supervisor } from './WhoBlanks'
import sentenceCss from './sentence.module.css'

/** The question as a sentence with blanks. */
export function Sentence({ state, change, errors, shut }: SentenceProps) {
  const props = { state, change, errors, shut }
  return (
    <div>
      <p className={sentenceCss.sentence}>
        May <Person {...props} /> <Operations {...ofItem(props, 0)} /> <Sheet {...ofItem(props, 0)} /> on{' '}
        <MachineBlank {...props} />
        <Supervisor {...props} /> with <DrawingBlank {...ofItem(props, 0)} />
        <RoundBlank {...ofItem(props, 0)} />
        <SettingBlank {...ofItem(props, 0)} />
        {state.more.map((_, i) => (
          <span key={i}>
            {', and '}
            <Operations {...ofItem(props, i + 1)} /> <Sheet {...ofItem(props, i + 1)} /> with{' '}
            <DrawingBlank {...ofItem(props, i + 1)} />
            <RoundBlank {...ofItem(props, i + 1)} />
            <SettingBlank {...ofItem(props, i + 1)} />{' '}
            <button
              type="button"
              className="quietlink"
              aria-label={`take out the ${ordinal(i + 2)} sheet`}
              onClick={() => change({ more: state.more.filter((_, j) => j !== i) })}
            >
              take out
            </button>
          </span>
        ))}
        , on <Time {...props} />
        <Bench {...props} />?
      </p>
      {state.operations.length > 0 && state.more.length + 1 < mostItems && (
        <button
          type="button"
          className={`quietlink ${sentenceCss.moreitems}`}
          onClick={() =>
            change({
              more: [...state.more, { ...emptyItem, operations: state.operations }],
              // What it takes in all is worked out anew.
              minutes: null,
            })
          }
        >
          Add another sheet or drawing for the same time
        </button>
      )}
    </div>
  )
}

const ordinal = (n: number) => ['first', 'second', 'third'][n - 1] ?? `${n}th`

/** The blanks of one item, as if it were the whole question: its fields, its errors, its own names. */
function ofItem({ state, change, errors, shut }: SentenceProps, i: number): SentenceProps {
  if (state.more.length === 0) return { state, change, errors, shut }
  const at = `items[${i}].`
  const own = Object.fromEntries(
    Object.entries(errors).flatMap(([field, texts]) => (field.startsWith(at) ? [[field.slice(at.length), texts]] : [])),
  )
  if (i === 0) return { state, change, errors: own, shut }
  const put = (to: Partial<AskState>) => {
    const { machine, minutes, ...item } = to
    change({
      ...(machine !== undefined && { machine }),
      ...(minutes !== undefined && { minutes }),
      more: state.more.map((m, j) => (j === i - 1 ? { ...m, ...withoutSettings(item) } : m)),
    })
  }
  return { state: { ...state, ...itemsOf(state)[i] }, change: put, errors: own, shut, nth: ` ${i + 1}` }
}
