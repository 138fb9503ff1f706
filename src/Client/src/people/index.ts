export { Account } from './Account'
export { Invite } from './Invite'
export { InvitePage } from './InvitePage'
export { MyPage } from './MyPage'
