export { CalculatorsPage } from './CalculatorsPage'
export { SettingsPage } from './SettingsPage'
