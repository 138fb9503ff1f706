export { EmergencyPage } from './EmergencyPage'
export { HousePage } from './HousePage'
export { MachinesPage } from './MachinesPage'
export { foundingQuery } from './houseQueries'
