export { ConductPage } from './ConductPage'
export { InvitePage } from './InvitePage'
export { MyPage } from './MyPage'
