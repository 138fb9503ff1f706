export { useWatch } from './watchQuery'
