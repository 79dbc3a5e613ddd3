export * from './path'
export * from './span'
