export * from './ease'
export * from './home'
export * from './motion'
