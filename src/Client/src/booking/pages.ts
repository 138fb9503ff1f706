export { BookingsPage } from './BookingsPage'
