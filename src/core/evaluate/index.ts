export * from './evaluate'
export * from './round-the-loop'
