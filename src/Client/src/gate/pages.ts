export { AskPage } from './AskPage'
export { SoonestPage } from './SoonestPage'
