import type { Layer } from '../document'
import { valuesAt } from '../evaluate'

/** A layer, and all that it holds, as it is at a frame: nothing in it moves. */
export function stillLayer(layer: Layer, frame: number, length: number): Layer {
  const { trembles: _trembles, events: _events, ...rest } = layer
  return {
    ...rest,
    values: { ...layer.values, ...valuesAt(layer, frame, length) },
    motions: {},
    ...(layer.layers ? { layers: layer.layers.map((each) => stillLayer(each, frame, length)) } : {}),
  }
}
