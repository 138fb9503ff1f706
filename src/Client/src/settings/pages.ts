export { CalculatorsPage } from './CalculatorsPage'
export { SettingsPage } from './SettingsPage'
export { RunTimesPage } from './RunTimesPage'
export { TestPiecesPage } from './TestPiecesPage'
