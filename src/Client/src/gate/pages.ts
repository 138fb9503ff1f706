export { AskPage } from './AskPage'
