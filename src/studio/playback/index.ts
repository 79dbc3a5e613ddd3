export * from './follow-time'
export * from './transport'
export * from './use-frames'
