export { CalendarsPage } from './CalendarsPage'
export { FixturesPage } from './FixturesPage'
export { JobsPage } from './JobsPage'
export { BookingsPage } from './BookingsPage'
