export * from './dither'
export * from './light'
export * from './picture'
export * from './reduce'
