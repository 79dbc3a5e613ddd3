export * from './dither'
export * from './picture'
export * from './reduce'
