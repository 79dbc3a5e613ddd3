export * from './dither'
export * from './picture'
