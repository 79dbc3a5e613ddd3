export * from './list'
export * from './load'
export { StorageError } from './records'
export * from './save'
