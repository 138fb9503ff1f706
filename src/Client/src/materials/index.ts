export { MaterialsPage } from './MaterialsPage'
export { MaterialPage } from './MaterialPage'
