import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { Link, useNavigate } from 'react-router'
import { askAddress } from '../gate'
import { answer, client, type Schemas } from '../kit/api'
import { Empty, Failure, Loading, PageHead, RunOn } from '../kit/parts'
import { useSession } from '../kit/session'
import { lengthIn, useUnit } from '../kit/units'
import bookingsCss from './bookings.module.css'

type Kept = Schemas['JobResponse']

const outcomes: Record<Schemas['Outcome'], string> = {
  clean: 'clean',
  notThrough: 'not through',
  charred: 'charred',
  flame: 'a flame stayed',
  abandoned: 'given up',
}

/** One question of several jobs: all of them on one machine, with one fixture at most. */
const together = (jobs: Kept[]) => {
  const [first, ...rest] = jobs
  if (!first || rest.some((j) => j.job.machineId !== first.job.machineId || j.job.fixture !== first.job.fixture)) return
  return askAddress({ ...first.job, items: jobs.flatMap((j) => j.job.items) })
}

/** Jobs that are kept, to be asked for again. */
export function JobsPage() {
  const navigate = useNavigate()
  const queries = useQueryClient()
  const jobs = useQuery({
    queryKey: ['live', 'jobs'],
    queryFn: async ({ signal }) => (await answer(client.GET('/api/jobs', { signal }))).items,
  })
  const remove = useMutation({
    mutationFn: (id: string) => answer(client.DELETE('/api/jobs/{id}', { params: { path: { id } } })),
    onSettled: () => queries.invalidateQueries({ queryKey: ['live', 'jobs'] }),
  })
  const [chosen, setChosen] = useState<string[]>([])
  const items = jobs.data ?? []
  const picked = items.filter((j) => chosen.includes(j.id))
  const address = together(picked)
  return (
    <>
      <PageHead title="Jobs" sub="What you run again: drawing, sheet, settings and machine">
        <Link to="/bookings">Bookings</Link>
      </PageHead>
      {jobs.isPending && <Loading what="your jobs" />}
      <Failure error={jobs.error} retry={() => void jobs.refetch()} />
      <Failure error={remove.error} />
      {jobs.data && (
        <section className="mt-3">
          <RunOn title="Yours" after={items.length} />
          {items.length === 0 && (
            <Empty title="You keep no job" action={{ text: 'Ask the gate', onClick: () => void navigate('/ask') }}>
              Ask the gate for what you want to run; below the booking it can be kept as a job.
            </Empty>
          )}
          <ul className={bookingsCss.jobs}>
            {items.map((j) => (
              <li key={j.id}>
                <Form.Check
                  id={`job-${j.id}`}
                  label={<b>{j.name}</b>}
                  checked={chosen.includes(j.id)}
                  onChange={(e) =>
                    setChosen((now) => (e.target.checked ? [...now, j.id] : now.filter((id) => id !== j.id)))
                  }
                />
                <JobWords of={j} />
                <span className={bookingsCss.jobacts}>
                  <Link className="btn btn-outline-primary btn-sm" to={askAddress(j.job)}>
                    Ask again
                  </Link>
                  <Button variant="link" size="sm" disabled={remove.isPending} onClick={() => remove.mutate(j.id)}>
                    Take away<span className="visually-hidden"> {j.name}</span>
                  </Button>
                </span>
              </li>
            ))}
          </ul>
          {picked.length > 1 &&
            (address ? (
              <Link className="btn btn-primary" to={address}>
                Ask with these {picked.length} jobs
              </Link>
            ) : (
              <p className="quiet">These jobs are for different machines or fixtures: ask for each by itself.</p>
            ))}
        </section>
      )}
    </>
  )
}

function JobWords({ of: j }: { of: Kept }) {
  const { time } = useSession()
  const unit = useUnit()
  return (
    <div>
      {j.job.items.map((item, i) => {
        const words = j.items[i]!
        return (
          <div key={i}>
            {words.drawing && `${words.drawing}: `}
            {item.operations.join(', ')} {words.material}, {lengthIn(unit, item.thicknessMm)} {unit}
            {item.sheetTag && `, on ${item.sheetTag}`}
            {words.sheetGone && <b> which is not there or not cleared any more</b>}
            {words.drawingGone && <b>. Its drawing was deleted</b>}
          </div>
        )
      })}
      <div className="small quiet">
        {j.machineName}
        {j.job.fixture && `, ${j.job.fixture}`}.{' '}
        {j.lastRun
          ? `Last run ${time.moment(j.lastRun.at)}, ${outcomes[j.lastRun.outcome]}.`
          : j.job.items.some((i) => i.drawingId) && 'No run of it was logged on a booking yet.'}
      </div>
    </div>
  )
}
