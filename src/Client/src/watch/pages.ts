export { WatchPage } from './WatchPage'
