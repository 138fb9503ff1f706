export { HousePage } from './HousePage'
export { MachinesPage } from './MachinesPage'
