import { useAction } from '../../kit/Act'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect, useRef, useState } from 'react'
import Button from 'react-bootstrap/Button'
import { Link, useParams } from 'react-router'
import { answer, client, type Schemas } from '../../kit/api'
import { Failure, Loading, PageHead } from '../../kit/parts'
import { QuizOutcome } from './QuizOutcome'
import { QuizQuestion } from './QuizQuestion'
import { useQuizAnswers } from './useQuizAnswers'
import courseCss from './course.module.css'

/** A quiz: one question at a time, every answer kept as it is given. */
export function QuizPage() {
  const { attempt: id = '' } = useParams()
  const attempt = useQuery({
    queryKey: ['attempt', id],
    queryFn: ({ signal }) => answer(client.GET('/api/training/attempts/{id}', { params: { path: { id } }, signal })),
    // The answers given here are newer than any the server could send.
    staleTime: Infinity,
  })
  return (
    <>
      <PageHead title={attempt.data?.title ?? 'Quiz'} sub={attempt.data && sub(attempt.data)}>
        <Link to="/training/ladder">All steps</Link>
      </PageHead>
      {attempt.isPending && <Loading what="the quiz" />}
      <Failure error={attempt.error} retry={() => void attempt.refetch()} />
      {attempt.data &&
        (attempt.data.ended ? <QuizOutcome attempt={attempt.data} /> : <Running key={id} attempt={attempt.data} />)}
    </>
  )
}

const sub = (a: Schemas['AttemptResponse']) =>
  a.ended ? 'Ended.' : `${a.passPercent} % and every critical question. Leave it and come back when you like.`

function Running({ attempt }: { attempt: Schemas['AttemptResponse'] }) {
  const quiz = useQuizAnswers(attempt)
  const { questions } = attempt
  const isAnswered = (q: Schemas['QuizQuestion']) => (quiz.given[q.id]?.length ?? 0) > 0
  const [at, setAt] = useState(() =>
    Math.max(
      0,
      questions.findIndex((q) => !isAnswered(q)),
    ),
  )
  const question = questions[at]!
  const open = questions.filter((q) => !isAnswered(q)).length
  const heading = useRef<HTMLHeadingElement>(null)
  const moved = useRef(false)
  useEffect(() => {
    // Only after a step: not when the page opens.
    if (moved.current) heading.current?.focus()
    moved.current = true
  }, [at])
  const queries = useQueryClient()
  const end = useAction(
    async () => {
      if (!(await quiz.send()))
        throw new Error('Some answers have not reached the server yet. They are kept here; try again in a moment.')
      return answer(client.POST('/api/training/attempts/{id}/end', { params: { path: { id: attempt.id } } }))
    },
    (ended) => queries.setQueryData(['attempt', attempt.id], ended),
  )
  return (
    <div className={courseCss.quiz}>
      <nav aria-label="Questions" className={courseCss.beads}>
        {questions.map((q, i) => (
          <button
            key={q.id}
            type="button"
            className={isAnswered(q) ? `${courseCss.bead} full` : courseCss.bead}
            aria-current={i === at ? 'step' : undefined}
            aria-label={`Question ${i + 1}, ${isAnswered(q) ? 'answered' : 'open'}`}
            onClick={() => setAt(i)}
          >
            {i + 1}
          </button>
        ))}
      </nav>
      <QuizQuestion
        key={question.id}
        question={question}
        number={at + 1}
        heading={heading}
        given={quiz.given[question.id] ?? []}
        give={(places) => quiz.give(question.id, places)}
      />
      <div className={courseCss.quizfoot}>
        <Button variant="outline-primary" disabled={at === 0} onClick={() => setAt(at - 1)}>
          Back
        </Button>
        {at < questions.length - 1 ? (
          <Button onClick={() => setAt(at + 1)}>Next</Button>
        ) : (
          <Button disabled={end.isPending} onClick={() => end.mutate()}>
            {open > 0 ? `End with ${open} open` : 'End the quiz'}
          </Button>
        )}
        <span role="status" className="small">
          {quiz.unsent > 0
            ? 'Not sent yet: kept on this device, and sent as soon as the server answers.'
            : 'Every answer is kept.'}
        </span>
      </div>
      <Failure error={end.error ?? (quiz.unsent === 0 ? quiz.error : null)} />
    </div>
  )
}
