export * from './mend'
export * from './mix'
export * from './remedies'
