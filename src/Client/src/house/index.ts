export { EmergencyPage } from './EmergencyPage'
export { HousePage } from './HousePage'
export { MachinesPage, StopMachines } from './MachinesPage'
export { foundingQuery } from './houseQueries'
