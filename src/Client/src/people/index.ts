export { Account } from './Account'
export { MyPage } from './MyPage'
