export { Account } from './Account'
export { Invite } from './Invite'
export { Pause, Release } from './PauseActs'
export { PhoneCode } from './PhoneCode'
