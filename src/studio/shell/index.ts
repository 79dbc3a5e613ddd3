export { Workspace } from './workspace'
