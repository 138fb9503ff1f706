export { EmergencyPage } from './EmergencyPage'
export { HousePage } from './HousePage'
export { MachinesPage } from './MachinesPage'
