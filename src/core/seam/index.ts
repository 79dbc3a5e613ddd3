export * from './descriptor'
export * from './loop-verdict'
export * from './verdict'
