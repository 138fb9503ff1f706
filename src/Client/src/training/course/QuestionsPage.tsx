import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import Form from 'react-bootstrap/Form'
import { Link } from 'react-router'
import { answer, client, type Schemas } from '../../kit/api'
import { Fold } from '../../kit/Act'
import { Failure, Loading, PageHead } from '../../kit/parts'
import { hasRole, useSession } from '../../kit/session'
import { RenewQuiz } from '../AgainForm'
import { QuestionForm } from './QuestionForm'
import { sheetsQuery } from '../trainingQueries'
import courseCss from './course.module.css'

type Item = Schemas['ItemAnswered']

/** How the questions of the bank do, for trainers who mend them. */
export function QuestionsPage() {
  const [advised, setAdvised] = useState(false)
  const statistics = useQuery({
    queryKey: ['live', 'quiz-statistics'],
    queryFn: ({ signal }) =>
      answer(client.GET('/api/training/quizzes/{id}/statistics', { params: { path: { id: 'laser-safety' } }, signal })),
  })
  const s = statistics.data
  const { me } = useSession()
  const sheets = useQuery(sheetsQuery)
  const topics = [...new Set((s?.items ?? []).map((i) => i.topic))]
  const shown = s?.items.filter((i) => !advised || (i.advice && i.asked >= s.enough)) ?? []
  return (
    <>
      <PageHead
        title="Questions"
        sub={
          s &&
          `${s.items.length} in the bank, ${s.attempts} quizzes ended, ${s.passed} passed` +
            (s.reliability == null ? '.' : `, reliability KR-20 ${s.reliability.toFixed(2)}.`)
        }
      >
        <Link to="/training">Certificates</Link>
      </PageHead>
      {statistics.isPending && <Loading what="the questions" />}
      <Failure error={statistics.error} retry={() => void statistics.refetch()} />
      {s && (
        <>
          <Form.Check
            className="my-2"
            id="advised"
            label="only those with advice"
            checked={advised}
            onChange={(e) => setAdvised(e.target.checked)}
          />
          <QuestionForm topics={topics} />
          {hasRole(me, 'steward') && sheets.data && (
            <Fold title="Everybody passes it anew">
              <RenewQuiz version={sheets.data.quizVersion} />
            </Fold>
          )}
          <div className="shelfscroll" tabIndex={0} role="region" aria-label="Questions of the bank">
            <table className={`plain ${courseCss.questions}`}>
              <thead>
                <tr>
                  <th>Question</th>
                  <th className="r">Asked</th>
                  <th className="r">Right</th>
                  <th className="r">Tells</th>
                  <th>What to do</th>
                </tr>
              </thead>
              <tbody>
                {shown.map((item) => (
                  <Row key={item.id} item={item} topics={topics} />
                ))}
              </tbody>
            </table>
          </div>
          <p className="small quiet mt-2">
            Right: share that got it right. Tells: correlation with the rest of the quiz (point-biserial); near 0 tells
            nothing, below 0 tells the wrong way.
          </p>
        </>
      )}
    </>
  )
}

function Row({ item, topics }: { item: Item; topics: string[] }) {
  return (
    <tr>
      <td>
        <details>
          <summary>
            {item.text} {item.critical && <span className="quiet">(critical)</span>}
          </summary>
          <ul className="small">
            {item.options.map((option, i) => (
              <li key={option}>
                {i < item.rightOptions ? <b>{option}</b> : option}: chosen {item.chosen[i]} times
              </li>
            ))}
          </ul>
          <QuestionForm item={item} topics={topics} />
        </details>
        <span className="small quiet">{item.topic}</span>
      </td>
      <td className="r">{item.asked}</td>
      <td className="r">{item.asked > 0 ? `${Math.round(item.difficulty * 100)} %` : ''}</td>
      <td className="r">{item.discrimination?.toFixed(2) ?? ''}</td>
      <td>{item.advice}</td>
    </tr>
  )
}
