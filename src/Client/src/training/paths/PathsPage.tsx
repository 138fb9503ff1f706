import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link } from 'react-router'
import { Fold } from '../../kit/Act'
import type { Schemas } from '../../kit/api'
import { Failure, Loading, PageHead, RunOn } from '../../kit/parts'
import { hasRole, useMaterials, useSession } from '../../kit/session'
import { NewPage } from '../course/NewPage'
import { PathForm } from './PathForm'
import { PracticalSheetForm, RenewQuiz } from '../AgainForm'
import { pathsQuery, sheetsQuery } from '../trainingQueries'
import trainingCss from '../training.module.css'

/** Which steps lead to what. Stewards change them. */
export function PathsPage() {
  const { me, time } = useSession()
  const paths = useQuery(pathsQuery)
  const sheets = useQuery(sheetsQuery)
  const [open, setOpen] = useState<string | null>(null)
  const steward = hasRole(me, 'steward')
  const materials = useMaterials().data ?? []
  return (
    <>
      <PageHead title="Paths" sub="Which steps lead to which machine, and what renews a certificate that lapsed.">
        <Link to="/training">Certificates</Link>
      </PageHead>
      {paths.isPending && <Loading what="the paths" />}
      <Failure error={paths.error} retry={() => void paths.refetch()} />
      {paths.data && (
        <div className={trainingCss.paths}>
          {paths.data.items.map((p) => (
            <section key={p.authority} data-path={p.authority}>
              <RunOn
                title={p.name}
                after={p.since ? `as changed on ${time.date(Date.parse(p.since))}` : 'starting path'}
              />
              {open === p.authority ? (
                <PathForm path={p} list={paths.data} close={() => setOpen(null)} />
              ) : (
                <>
                  <ol className={trainingCss.pathsteps}>
                    {lines(p.steps).map((line) => (
                      <li key={line}>{line}</li>
                    ))}
                  </ol>
                  <p className="small mb-1">
                    <b>Renewed by:</b> {p.refresher.map((s) => s.title).join(', ')}.
                  </p>
                  {p.need && <p className="small mb-1">Needed for {needWords(p.need, materials)}.</p>}
                  {p.coming && <p className="small mb-1">Another path begins on {time.date(Date.parse(p.coming))}.</p>}
                  {steward && (
                    <button type="button" className="quietlink" onClick={() => setOpen(p.authority)}>
                      Change this path
                    </button>
                  )}
                </>
              )}
            </section>
          ))}
          {steward && (
            <section>
              <RunOn title="Another page" />
              <NewPage />
              <Fold title="Everybody passes the quiz anew">
                {sheets.data && <RenewQuiz version={sheets.data.quizVersion} />}
              </Fold>
            </section>
          )}
          {steward && (
            <section>
              <RunOn title="Practical forms" after={sheets.data?.items.length} />
              {sheets.data?.items.map((s) => (
                <Fold key={`${s.id} ${s.version}`} title={`${s.title}, version ${s.version}, ${s.steps.length} steps`}>
                  <PracticalSheetForm sheet={s} />
                </Fold>
              ))}
              <Fold title="Another form">
                <PracticalSheetForm />
              </Fold>
            </section>
          )}
          {steward && (
            <section>
              <RunOn title="Another add-on" />
              {open === 'new' ? (
                <PathForm list={paths.data} close={() => setOpen(null)} />
              ) : (
                <button type="button" className="quietlink" onClick={() => setOpen('new')}>
                  Add one: thick stock, metal, being a trainer …
                </button>
              )}
            </section>
          )}
        </div>
      )}
    </>
  )
}

/** Pages in a row stand in one line. */
const lines = (steps: Schemas['PathStepResponse'][]) =>
  steps
    .reduce<{ text: string; pages: number }[]>((all, s) => {
      const last = all.at(-1)
      if (s.kind !== 'reading') return [...all, { text: s.title, pages: 0 }]
      if (!last?.pages) return [...all, { text: `Page to read: ${s.title}`, pages: 1 }]
      return [
        ...all.slice(0, -1),
        { text: `${last.text.replace(/^Page /, 'Pages ')}, ${s.title}`, pages: last.pages + 1 },
      ]
    }, [])
    .map((l) => l.text)

const needWords = (need: Schemas['AddOnNeed'], materials: Schemas['MaterialResponse'][]) =>
  [
    need.fixture && `runs with ${need.fixture}`,
    need.thickerThanMm && `stock above ${need.thickerThanMm} mm`,
    need.materialIds?.map((id) => materials.find((m) => m.id === id)?.name ?? id).join(', '),
    need.forSigning && 'signing others off',
  ]
    .filter(Boolean)
    .join('; or for ')
