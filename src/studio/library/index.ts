export { LibraryView } from './library-view'
