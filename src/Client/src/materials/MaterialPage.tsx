import { useAction } from '../kit/Act'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import { Link, useParams } from 'react-router'
import { answer, client, type Schemas } from '../kit/api'
import { Empty, Failure, fieldErrors, Loading, PageHead, RunOn, TextField } from '../kit/parts'
import { hasRole, useMachines, useMaterials, useSession } from '../kit/session'
import { useUnit } from '../kit/units'
import { historyQuery, proposalsQuery } from './materialQueries'
import { History } from './rulings/History'
import { RulingForm } from './rulings/RulingForm'
import { CellChanges } from './rulings/RulingOutcome'
import { ShelfCell } from './ShelfCell'
import { StandingWord } from './StandingWord'
import materialsCss from './materials.module.css'
import rulingsCss from './rulings.module.css'

type Material = Schemas['MaterialResponse']

/** One material: its twins side by side, its rulings and how they came about. */
export function MaterialPage() {
  const { id = '' } = useParams()
  const { me } = useSession()
  const materials = useMaterials()
  if (materials.isPending) return <Loading what="the material" />
  const material = materials.data?.find((m) => m.id === id)
  if (!material)
    return (
      <>
        <PageHead title="Materials" />
        <Failure error={materials.error} retry={() => void materials.refetch()} />
        {materials.data && (
          <Empty title="No such material">
            It is not on the list, so it stays out. <Link to="/materials">See the shelf.</Link>
          </Empty>
        )}
      </>
    )
  return (
    <>
      <PageHead title={material.name} sub={material.family}>
        <Link to={`/materials?material=${material.id}`}>Back to the shelf</Link>
      </PageHead>
      <p className="mt-3">{material.hazard}</p>
      {material.handling && <p>At the machine: {material.handling}</p>}
      {material.reasons.includes('chlorine') && (
        <p>
          <Link to="/identify">Why vinyl is never allowed, in figures</Link>
        </p>
      )}
      <Twins material={material} all={materials.data!} />
      <Proposals materialId={material.id} />
      <RunOn title="Rulings" />
      <Now material={material} />
      {hasRole(me, 'steward') && <Changing material={material} />}
      <History id={material.id} />
    </>
  )
}

function Changing({ material }: { material: Material }) {
  const unit = useUnit()
  const { now } = useSession()
  const history = useQuery(historyQuery(unit, material.id))
  const [changing, setChanging] = useState(false)
  if (!changing)
    return (
      <Button className="mt-2" variant="outline-primary" disabled={!history.data} onClick={() => setChanging(true)}>
        Change a ruling
      </Button>
    )
  const holds = (v: Schemas['VersionOfRuling']) =>
    Date.parse(v.from) <= now() && (!v.until || Date.parse(v.until) > now())
  const practice = history.data?.find((v) => v.practice && holds(v))?.practice ?? ''
  return <RulingForm material={material} practice={practice} close={() => setChanging(false)} />
}

function Now({ material }: { material: Material }) {
  const machines = useMachines()
  return (
    <div className="shelfscroll" tabIndex={0} role="region" aria-label="On each machine">
      <table className={materialsCss.shelf}>
        <thead>
          <tr>
            {machines.data?.map((m) => (
              <th scope="col" key={m.id}>
                <b>{m.name}</b>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          <tr>
            {machines.data?.map((m) => (
              <ShelfCell key={m.id} cell={material.cells.find((c) => c.machineId === m.id)} />
            ))}
          </tr>
        </tbody>
      </table>
    </div>
  )
}

function Twins({ material, all }: { material: Material; all: Material[] }) {
  if (material.twins.length === 0) return null
  return (
    <section className="mb-3">
      {material.twins.map((group) => {
        const members = [material, ...group.members.map((name) => all.find((m) => m.name === name))].filter(
          (m): m is Material => !!m,
        )
        return (
          <div key={group.members.join()}>
            <RunOn title="Look-alikes" after={group.dangerous ? 'one of them is dangerous' : undefined} />
            <p>
              <b>{group.freshEdgeTells ? 'What tells them apart:' : 'They cannot be told apart by eye.'}</b>{' '}
              {group.tellsApart}
            </p>
            <div className={rulingsCss.twins}>
              {members.map((m) => (
                <div key={m.id} className={rulingsCss.twin}>
                  <h3>{m.id === material.id ? m.name : <Link to={`/materials/${m.id}`}>{m.name}</Link>}</h3>
                  <StandingWord standing={m.standing} />
                  <p className="small">{m.hazard}</p>
                </div>
              ))}
            </div>
          </div>
        )
      })}
    </section>
  )
}

function Proposals({ materialId }: { materialId: string }) {
  const { me } = useSession()
  const unit = useUnit()
  const may = hasRole(me, 'steward', 'countersigner')
  const proposals = useQuery({ ...proposalsQuery(unit), enabled: may })
  const own = proposals.data?.filter((p) => p.materialId === materialId) ?? []
  if (own.length === 0) return null
  return (
    <section className="mb-3">
      <RunOn title="A milder ruling waits" after={own.length} />
      {own.map((p) => (
        <Proposal key={p.id} proposal={p} />
      ))}
    </section>
  )
}

function Proposal({ proposal }: { proposal: Schemas['ProposalResponse'] }) {
  const { time } = useSession()
  const [reason, setReason] = useState('')
  const close = useAction(async (agree: boolean) => {
    const params = { path: { id: proposal.id } }
    return agree
      ? answer(client.POST('/api/ruling-proposals/{id}/agree', { params, body: { reason } }))
      : answer(client.POST('/api/ruling-proposals/{id}/refuse', { params, body: { reason } }))
  })
  const errors = fieldErrors(close.error)
  return (
    <div className="proposal">
      <p>
        {proposal.mine ? 'You' : proposal.by} proposed on {time.moment(proposal.at)}: {proposal.why ?? 'reason erased'}{' '}
        It would hold from {time.moment(proposal.holdsFrom)}, or once agreed to.
      </p>
      <CellChanges cells={proposal.cells} />
      <TextField
        id={`proposal-${proposal.id}`}
        label="Why, in a sentence"
        error={errors.reason}
        value={reason}
        put={setReason}
      />
      {close.isError && !errors.reason && <Failure error={close.error} />}
      {proposal.mayAgree && (
        <Button size="sm" className="me-2" disabled={close.isPending} onClick={() => close.mutate(true)}>
          Agree
        </Button>
      )}
      <Button size="sm" variant="outline-primary" disabled={close.isPending} onClick={() => close.mutate(false)}>
        {proposal.mine ? 'Withdraw' : 'Refuse'}
      </Button>
    </div>
  )
}
