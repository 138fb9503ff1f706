import type { RefObject } from 'react'
import Form from 'react-bootstrap/Form'
import type { Schemas } from '../../kit/api'
import { swapped } from '../paths/order'
import courseCss from './course.module.css'

type Question = Schemas['QuizQuestion']

const asks = {
  single: 'One is right.',
  picture: 'One is right.',
  multiple: 'Several are right: choose all of them.',
  order: 'Put them in order, first to last.',
}

/** One question to answer, by mouse, touch or keyboard. */
export function QuizQuestion({
  question,
  number,
  heading,
  given,
  give,
}: {
  question: Question
  number: number
  heading: RefObject<HTMLHeadingElement | null>
  given: number[]
  give: (places: number[]) => void
}) {
  const many = question.kind === 'multiple'
  return (
    <section aria-labelledby="question" className={courseCss.question}>
      <h2 id="question" ref={heading} tabIndex={-1}>
        <span className={courseCss.qnumber}>{number}</span> {question.text}
      </h2>
      <p className="small quiet">
        {question.critical && <b>Critical. </b>}
        {asks[question.kind]}
      </p>
      {question.picture && (
        <img src={`/training/${question.picture}`} alt={question.alt ?? ''} className={courseCss.qpicture} />
      )}
      {question.kind === 'order' ? (
        <OrderAnswer question={question} given={given} give={give} />
      ) : (
        <div role={many ? 'group' : 'radiogroup'} aria-labelledby="question">
          {question.options.map((option, i) => (
            <Form.Check
              key={option}
              type={many ? 'checkbox' : 'radio'}
              name={question.id}
              id={`${question.id}-${i}`}
              label={option}
              checked={given.includes(i)}
              onChange={() =>
                give(many ? (given.includes(i) ? given.filter((g) => g !== i) : [...given, i].sort()) : [i])
              }
            />
          ))}
        </div>
      )}
    </section>
  )
}

function OrderAnswer({
  question,
  given,
  give,
}: {
  question: Question
  given: number[]
  give: (places: number[]) => void
}) {
  // Not yet put in order: as they were drawn.
  const order = given.length > 0 ? given : question.options.map((_, i) => i)
  return (
    <>
      <ol className={courseCss.ordering}>
        {order.map((place, i) => (
          <li key={place}>
            <span>{question.options[place]}</span>
            <button
              type="button"
              className="quietlink"
              disabled={i === 0}
              aria-label={`Earlier: ${question.options[place]}`}
              onClick={() => give(swapped(order, i, i - 1))}
            >
              earlier
            </button>
            <button
              type="button"
              className="quietlink"
              disabled={i === order.length - 1}
              aria-label={`Later: ${question.options[place]}`}
              onClick={() => give(swapped(order, i, i + 1))}
            >
              later
            </button>
          </li>
        ))}
      </ol>
      {given.length === 0 && (
        <button type="button" className="quietlink" onClick={() => give(order)}>
          This order is right as it stands
        </button>
      )}
    </>
  )
}
