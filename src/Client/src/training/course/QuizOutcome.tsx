import { Link } from 'react-router'
import type { Schemas } from '../../kit/api'
import { RunOn } from '../../kit/parts'
import { useSession } from '../../kit/session'
import { Standing } from '../../kit/Standing'
import courseCss from './course.module.css'

/** A marked attempt: the mark, and every question with what is right and why. */
export function QuizOutcome({ attempt }: { attempt: Schemas['AttemptResponse'] }) {
  const { time } = useSession()
  const mark = attempt.mark!
  const wrong = attempt.questions.filter((q) => !q.right)
  return (
    <div className={courseCss.quiz}>
      <p className={courseCss.quizmark}>
        <Standing standing={mark.passed ? 'clear' : 'shut'} word={mark.passed ? 'Passed' : 'Not passed'} width={26} />{' '}
        {mark.right} of {mark.of} right, {Math.floor(mark.percent)} %; {attempt.passPercent} % are needed.
        {mark.criticalMissed > 0 &&
          ` ${mark.criticalMissed} critical ${mark.criticalMissed === 1 ? 'one' : 'ones'} wrong.`}
      </p>
      <p>
        {attempt.nextTry
          ? `It can be tried again from ${time.moment(attempt.nextTry)}, with other questions.`
          : 'What comes next is on your steps.'}{' '}
        <Link to="/training/ladder">All steps</Link>
      </p>
      {wrong.length > 0 && (
        <>
          <RunOn title="Look at these again" after={wrong.length} />
          {wrong.map((q) => (
            <Explained key={q.id} question={q} />
          ))}
        </>
      )}
      <RunOn title="Right" after={mark.right} />
      {attempt.questions
        .filter((q) => q.right)
        .map((q) => (
          <Explained key={q.id} question={q} />
        ))}
    </div>
  )
}

function Explained({ question }: { question: Schemas['QuizQuestion'] }) {
  const say = (places: number[]) =>
    places.length === 0
      ? 'nothing'
      : places.map((p) => question.options[p]).join(question.kind === 'order' ? ' → ' : '; ')
  return (
    <section className={courseCss.explained}>
      <h3>
        {question.text} {question.critical && <span className="small">(critical)</span>}
      </h3>
      {!question.right && <p className="small">You said: {say(question.answer)}.</p>}
      <p>
        <b>{say(question.correct ?? [])}</b>. {question.why}
      </p>
    </section>
  )
}
