export { WatchPage } from './WatchPage'
export { watchQuery } from './watchQuery'
