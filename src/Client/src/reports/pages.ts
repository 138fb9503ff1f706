export { UsePage } from './UsePage'
