export * from './passes'
export * from './settings'
export * from './timing'
export * from './vector'
