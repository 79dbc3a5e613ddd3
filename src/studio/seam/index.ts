export { SeamView } from './seam-view'
