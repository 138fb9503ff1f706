export { StationKept } from './StationKept'
export { StationPage } from './StationPage'
