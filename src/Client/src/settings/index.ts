export { settingsQuery, type SettingWish } from './settingQueries'
export { Big } from './Big'
