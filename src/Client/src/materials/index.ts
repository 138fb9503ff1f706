export { MaterialField } from './MaterialField'
