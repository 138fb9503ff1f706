export { Locks } from './Locks'
export { ReturnForm } from './ReturnForm'
export { machineUpkeepQuery } from './upkeepQueries'
