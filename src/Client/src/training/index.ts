export { TrainingPage } from './TrainingPage'
