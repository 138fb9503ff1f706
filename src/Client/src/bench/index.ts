export { BenchPage } from './BenchPage'
