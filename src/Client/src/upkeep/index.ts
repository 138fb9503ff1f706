export { ReturnForm } from './ReturnForm'
export { machineUpkeepQuery } from './upkeepQueries'
