export { JobsPage } from './JobsPage'
export { BookingsPage } from './BookingsPage'
