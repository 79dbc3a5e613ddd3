export { ComposeView } from './compose-view'
