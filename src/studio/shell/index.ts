export { Frame } from './frame'
export { Workspace } from './workspace'
