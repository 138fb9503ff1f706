export { UpkeepPage } from './UpkeepPage'
