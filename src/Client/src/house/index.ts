export { foundingQuery } from './houseQueries'
export { StopMachines } from './StopMachines'
