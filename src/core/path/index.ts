export * from './path'
export * from './ruler'
export * from './span'
export * from './svg'
