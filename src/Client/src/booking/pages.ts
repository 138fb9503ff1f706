export { CalendarsPage } from './CalendarsPage'
export { JobsPage } from './JobsPage'
export { BookingsPage } from './BookingsPage'
