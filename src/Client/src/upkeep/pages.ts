export { RoundPage } from './RoundPage'
export { StockPage } from './StockPage'
export { UpkeepPage } from './UpkeepPage'
