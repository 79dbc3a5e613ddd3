export * from './transport'
export * from './use-frames'
export * from './use-player'
