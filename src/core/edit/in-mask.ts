import type { Layer } from '../document'
import type { BrushStroke } from '../effects'
import { newLayer } from './edit'

/** A layer with a painted mask at hand; where nothing is painted on that yet, all of it is seen. */
export function inMask(
  layer: Layer,
  { x, y, rotation = 0 }: { readonly x: number; readonly y: number; readonly rotation?: number },
  strokes: readonly BrushStroke[] = [],
): Layer {
  const mask = newLayer('brush', 'Where it is seen', { x, y, rotation, strokes })
  return { ...newLayer('group', `${layer.name} in a mask`, { mask: 'shape' }), layers: [layer, mask] }
}
