export { DrawingsPage } from './DrawingsPage'
