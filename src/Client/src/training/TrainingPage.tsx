import './training.css'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import Form from 'react-bootstrap/Form'
import { Link, useSearchParams } from 'react-router'
import type { Schemas } from '../shared/api'
import { Empty, Failure, Loading, PageHead } from '../shared/parts'
import { peopleQuery, useMachines, useSession } from '../shared/session'
import { Standing } from '../shared/Standing'
import { Founding } from './Founding'
import { PersonCard } from './PersonCard'

type PersonAnswer = Schemas['PersonAnswer']
const SHOWN = 80

/** Who may run what, and until when. */
export function TrainingPage() {
  const { me } = useSession()
  const people = useQuery(peopleQuery)
  const machines = useMachines()
  const [params, setParams] = useSearchParams()
  const [find, setFind] = useState('')
  const wanted = find.trim().toLowerCase()
  const known = (people.data ?? []).filter((p) => p.certificates)
  const shown = known.filter((p) => p.name.toLowerCase().includes(wanted))
  const chosen = people.data?.find((p) => p.id === (params.get('person') ?? me.memberId))
  return (
    <>
      <PageHead title="Training" sub="Who may run what, and until when.">
        <Link to="/training/ladder">Your way to the machines</Link>
        {me.roles.some((r) => r.startsWith('trainer')) && <Link to="/training/questions">Questions</Link>}
        {known.length > 1 && (
          <Form.Control
            data-find
            type="search"
            aria-label="Find a person"
            placeholder="Find a person  /"
            value={find}
            onChange={(event) => setFind(event.target.value)}
          />
        )}
      </PageHead>
      {(people.isPending || machines.isPending) && <Loading what="the certificates" />}
      <Failure error={people.error ?? machines.error} retry={() => void people.refetch()} />
      {machines.data && <Founding machines={machines.data} />}
      {people.data && machines.data && (
        <div className="shelfpage trainingpage">
          {shown.length === 0 ? (
            <Empty title={`Nobody called “${find}”`} action={{ text: 'Show everybody', onClick: () => setFind('') }}>
              People are found by any part of their name.
            </Empty>
          ) : (
            <div className="shelfscroll" tabIndex={0} role="region" aria-label="Certificates">
              <table className="plain matrix">
                <thead>
                  <tr>
                    <th>Person</th>
                    {machines.data.map((m) => (
                      <th key={m.id}>{m.name}</th>
                    ))}
                  </tr>
                </thead>
                <tbody>
                  {shown.slice(0, SHOWN).map((p) => (
                    <PersonRow
                      key={p.id}
                      person={p}
                      machines={machines.data}
                      chosen={p.id === chosen?.id}
                      choose={() => setParams({ person: p.id }, { replace: true })}
                    />
                  ))}
                </tbody>
              </table>
              {shown.length > SHOWN && (
                <p className="small quiet">And {shown.length - SHOWN} more: type part of a name.</p>
              )}
            </div>
          )}
          {chosen && <PersonCard key={chosen.id} person={chosen} machines={machines.data} />}
        </div>
      )}
    </>
  )
}

function PersonRow({
  person,
  machines,
  chosen,
  choose,
}: {
  person: PersonAnswer
  machines: Schemas['MachineAnswer'][]
  chosen: boolean
  choose: () => void
}) {
  const { time, now } = useSession()
  const cell = (machine: string) => {
    const held = person.certificates?.find((c) => c.authority === machine)
    if (!held) return <span className="quiet">none</span>
    if (!held.until) return <Standing standing="clear" word="no end" width={18} />
    const soon = Date.parse(held.until) - now() < 14 * 86_400_000
    return (
      <Standing standing={soon ? 'caution' : 'clear'} word={`to ${time.date(Date.parse(held.until) - 1)}`} width={18} />
    )
  }
  return (
    <tr aria-selected={chosen}>
      <td>
        <button type="button" className="quietlink" onClick={choose}>
          {person.name}
        </button>
        {person.pause && <Standing standing="shut" word="paused" width={18} />}
      </td>
      {machines.map((m) => (
        <td key={m.id}>{cell(m.id)}</td>
      ))}
    </tr>
  )
}
