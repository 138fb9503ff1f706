export { RecordsPage } from './RecordsPage'
