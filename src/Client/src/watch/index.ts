export { WatchPage } from './WatchPage'
export { useWatch } from './watchQuery'
