export { ExportView } from './export-view'
