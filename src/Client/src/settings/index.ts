export { settingsQuery } from './settingQueries'
