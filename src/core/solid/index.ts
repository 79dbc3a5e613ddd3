export { type Fold, foldOf, onSurface, squareToTriangle, surfacePoints } from './fold'
export * from './mesh'
export * from './model'
export * from './turn'
