import { Link } from 'react-router'
import type { Schemas } from '../kit/api'
import { Ticket } from '../kit/parts'
import { Standing } from '../kit/Standing'

const evidence: Record<Schemas['Evidence'], string> = {
  none: 'None: what you see is what it is.',
  declared: 'You state where it comes from; it stands as a condition.',
  clearedTag: 'The tag of a sheet that a steward cleared. “Laser-safe” on a marketplace page is a claim, not evidence.',
}

/** All a house says of one material. */
export function MaterialCard({
  material,
  machines,
}: {
  material: Schemas['MaterialResponse']
  machines: Schemas['MachineResponse'][]
}) {
  const never = material.cells.some((c) => c.standing === 'never')
  const banned = material.cells.some((c) => c.standing === 'banned')
  const cellsOf = (standing: Schemas['RulingStatus']) => material.cells.filter((c) => c.standing === standing)
  const names = (cells: typeof material.cells) =>
    cells.map((c) => machines.find((m) => m.id === c.machineId)?.name).join(', ')
  const [permitted, arranged] = [cellsOf('permitted'), cellsOf('byArrangement')]
  const [first] = [...permitted, ...arranged]
  return (
    <Ticket label={material.name}>
      <h2>{material.name}</h2>
      {never ? (
        <Standing standing="shut" word="Never: no house can relax this" />
      ) : banned ? (
        <Standing standing="shut" word="Banned in this house" />
      ) : first ? (
        <p className="small quiet mb-1">
          {permitted.length > 0 && `Permitted within the limits of the shelf on ${names(permitted)}. `}
          {arranged.length > 0 && `Only after a steward agrees, on ${names(arranged)}.`}
        </p>
      ) : (
        <p className="small quiet mb-1">No machine here can do it.</p>
      )}
      <hr className="dash" />
      <h3>Hazard</h3>
      <p>{material.hazard}</p>
      {material.handling && (
        <>
          <h3>At the machine</h3>
          <p>{material.handling}</p>
        </>
      )}
      {!never && !banned && (
        <>
          <h3>Evidence needed</h3>
          <p>{evidence[material.evidence]}</p>
        </>
      )}
      {material.twins.map((twin) => (
        <div key={twin.members.join()}>
          <h3>{twin.dangerous ? 'Look-alikes, one of them dangerous' : 'Look-alikes'}</h3>
          <p>
            {twin.members.join(', ')}.{' '}
            <b>{twin.freshEdgeTells ? 'A fresh edge tells:' : 'Cannot be told apart by eye:'}</b> {twin.tellsApart}
          </p>
        </div>
      ))}
      <h3>Why, as codes</h3>
      <p className="small quiet">{material.reasons.join(', ') || 'none'}</p>
      {material.synonyms.length > 0 && <p className="small quiet">Also called {material.synonyms.join(', ')}.</p>}
      {!never && !banned && first && (
        <Link
          className="btn btn-outline-primary btn-sm"
          to={`/ask?material=${material.id}&machine=${first.machineId}&operations=cut`}
        >
          Ask the gate about it
        </Link>
      )}
      <p className="mt-2 mb-0">
        <Link to={`/materials/${material.id}`}>
          {material.twins.length > 0
            ? 'Look-alikes side by side, rulings and their history'
            : 'Rulings and their history'}
        </Link>
      </p>
      <p className="small quiet mt-2 mb-0">
        Rulings are common practice as this house keeps them. Follow your local code and the supplier’s data sheet.
      </p>
    </Ticket>
  )
}
