export { MaterialsPage } from './MaterialsPage'
