import { wrapFrame } from '../clock'
import {
  clampToRange,
  layerKind,
  movingProperty,
  type Placement,
  type PropertyValue,
  placementMatrix,
  type Values,
} from '../layers'
import { motionValue } from '../motion'
import type { BlendMode, DisplayList, DisplayNode } from './display-list'
import type { Layer, Loop } from './schema'

/** The value of one property of a layer at an unreduced frame, before it is kept in its range. */
export function propertyAt(layer: Layer, property: string, frame: number, length: number): PropertyValue {
  const motion = layer.motions[property]
  const value = layer.values[property] ?? null
  const described = layerKind(layer.kind).properties[property]
  if (!motion || !described) return value
  return motionValue(motion, frame, length, movingProperty(described, layer.values).mix)
}

/** The values of a layer at an unreduced frame, its motions applied. */
export function valuesAt(layer: Layer, frame: number, length: number): Values {
  const moving = Object.keys(layer.motions)
  if (moving.length === 0) return layer.values
  const { properties } = layerKind(layer.kind)
  const values: Record<string, PropertyValue> = { ...layer.values }
  for (const name of moving) {
    const property = properties[name]
    if (property) values[name] = clampToRange(property, propertyAt(layer, name, frame, length))
  }
  return values
}

function evaluateLayer(layer: Layer, frame: number, length: number): DisplayNode {
  const values = valuesAt(layer, frame, length)
  const children = layer.layers ? evaluateLayers(layer.layers, frame, length) : []
  const { opacity, blend } = values as unknown as Placement
  return {
    ...layerKind(layer.kind).draw(values, children),
    layerId: layer.id,
    transform: placementMatrix(values),
    opacity,
    blend: blend as BlendMode,
  }
}

const evaluateLayers = (layers: readonly Layer[], frame: number, length: number): DisplayNode[] =>
  layers.filter((layer) => !layer.hidden).map((layer) => evaluateLayer(layer, frame, length))

/**
 * The picture at an unreduced frame: any real number, N being the closing frame. Where every motion comes
 * home and goes on as it began, it equals the picture one loop earlier.
 */
export function evaluateUnreduced(loop: Loop, frame: number): DisplayList {
  const { width, height, background, layers, length } = loop
  return { width, height, background, nodes: evaluateLayers(layers, frame, length) }
}

/** The picture at any frame, whole or fractional: a function of the loop and of n modulo N alone. */
export const evaluate = (loop: Loop, frame: number): DisplayList =>
  evaluateUnreduced(loop, wrapFrame(frame, loop.length))
