export * from './gif-decode'
export * from './gif-encode'
