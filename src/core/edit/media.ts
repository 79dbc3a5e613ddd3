import { type Layer, type Loop, referencesOf } from '../document'
import { layerKind, type PropertyValue } from '../layers'
import { type Medium, mediumKind } from '../media'

const sizeOf = (medium: Medium) => mediumKind(medium.kind).picture?.size(medium) ?? { width: 1, height: 1 }

/**
 * The loop with another medium in the place of one of the same id. Layers that show it keep the scale of its pixels: where it has become
 * smaller, so do they.
 */
export function exchangeMedium(loop: Loop, medium: Medium): Loop {
  const before = loop.media.find(({ id }) => id === medium.id)
  if (!before) return loop
  const was = sizeOf(before)
  const is = sizeOf(medium)
  const fitted = (layer: Layer): Layer => {
    const inside = layer.layers ? { ...layer, layers: layer.layers.map(fitted) } : layer
    const { properties } = layerKind(layer.kind)
    if (!('width' in properties && 'height' in properties)) return inside
    if (!referencesOf(layer).some(({ id }) => id === medium.id)) return inside
    const scaled = (value: PropertyValue | undefined, from: number, to: number) => (Number(value) * to) / from
    const { width, height } = layer.values
    return {
      ...inside,
      values: {
        ...layer.values,
        width: scaled(width, was.width, is.width),
        height: scaled(height, was.height, is.height),
      },
    }
  }
  return {
    ...loop,
    media: loop.media.map((each) => (each.id === medium.id ? medium : each)),
    layers: loop.layers.map(fitted),
    loops: loop.loops.map((inner) => ({ ...inner, layers: inner.layers.map(fitted) })),
  }
}
