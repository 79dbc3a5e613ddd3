export * from './common'
export * from './fill'
export * from './front'
export * from './strobe'
