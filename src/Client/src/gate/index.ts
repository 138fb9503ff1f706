export { AskPage } from './AskPage'
export { askAddress } from './askState'
