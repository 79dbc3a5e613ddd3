export * from './mend'
export * from './mix'
export * from './numbering'
export * from './remedies'
