export { settingsQuery, type SettingWish } from './settingQueries'
