import { useAction } from '../../kit/Act'
import { useQuery } from '@tanstack/react-query'
import { useState, type SubmitEvent } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import Markdown from 'react-markdown'
import { Link, useParams } from 'react-router'
import { answer, client, type Schemas } from '../../kit/api'
import { Failure, fieldErrors, Loading, PageHead } from '../../kit/parts'
import { hasRole, useSession } from '../../kit/session'
import { PageChange } from './PageChange'
import courseCss from './course.module.css'

/** A page of the course, with the question that shows it was read. */
export function ReadingPage() {
  const { id = '' } = useParams()
  const { me } = useSession()
  const page = useQuery({
    queryKey: ['live', 'reading', id],
    queryFn: ({ signal }) => answer(client.GET('/api/training/readings/{id}', { params: { path: { id } }, signal })),
  })
  return (
    <>
      <PageHead title={page.data?.title ?? 'Reading'} sub="Laser safety">
        <Link to="/training/ladder">All steps</Link>
      </PageHead>
      {page.isPending && <Loading what="the page" />}
      <Failure error={page.error} retry={() => void page.refetch()} />
      {page.data && <Page key={`${page.data.id} ${page.data.version}`} page={page.data} />}
      {page.data && hasRole(me, 'steward') && <PageChange key={page.data.id} id={page.data.id} />}
    </>
  )
}

function Page({ page }: { page: Schemas['PageResponse'] }) {
  const { time } = useSession()
  const [chosen, setChosen] = useState('')
  const done = useAction(() =>
    answer(
      client.POST('/api/training/readings/{id}/done', {
        params: { path: { id: page.id } },
        body: { version: page.version, answer: chosen },
      }),
    ),
  )
  const errors = fieldErrors(done.error)
  return (
    <div className={courseCss.reading}>
      <article>
        {/* The page's own heading stands above already. */}
        <Markdown disallowedElements={['h1']}>{page.body}</Markdown>
      </article>
      {page.readAt ? (
        <p role="status" className={courseCss.readdone}>
          <b>Read on {time.date(page.readAt)}.</b>{' '}
          {page.nextId ? (
            <Link to={`/training/read/${page.nextId}`}>The next page</Link>
          ) : (
            <Link to="/training/ladder">All pages are read: on to the quiz</Link>
          )}
        </p>
      ) : (
        <Form
          noValidate
          className={courseCss.readcheck}
          onSubmit={(event: SubmitEvent) => {
            event.preventDefault()
            done.mutate()
          }}
        >
          <fieldset>
            <legend>{page.check}</legend>
            {page.options.map((option) => (
              <Form.Check
                type="radio"
                name="check"
                key={option}
                id={`check-${option}`}
                label={option}
                checked={chosen === option}
                onChange={() => setChosen(option)}
              />
            ))}
          </fieldset>
          {errors.answer && (
            <div className="invalid-feedback d-block" role="alert">
              {errors.answer.join(' ')}
            </div>
          )}
          {done.isError && !errors.answer && <Failure error={done.error} />}
          <Button type="submit" className="mt-2" disabled={done.isPending}>
            I have read it
          </Button>
        </Form>
      )}
    </div>
  )
}
