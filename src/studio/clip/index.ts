export { FileView } from './file-view'
