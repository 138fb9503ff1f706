export { askAddress } from './askState'
