export * from './clock'
export * from './delays'
export * from './fraction'
export * from './rate'
