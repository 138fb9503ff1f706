export { MachinesPage } from './MachinesPage'
