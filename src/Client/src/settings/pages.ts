export { CalculatorsPage } from './CalculatorsPage'
export { SettingsPage } from './SettingsPage'
export { TestPiecesPage } from './TestPiecesPage'
