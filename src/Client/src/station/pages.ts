export { StationPage } from './StationPage'
