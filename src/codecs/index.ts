export * from './gif-decode'
export * from './gif-encode'
export * from './gif-proof'
export * from './gif-write'
