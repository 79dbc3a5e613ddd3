export { FitView } from './fit-view'
