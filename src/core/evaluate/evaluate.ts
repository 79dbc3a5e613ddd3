import { wrapFrame } from '../clock'
import type { BlendMode, DisplayList, DisplayNode } from '../display'
import type { InnerLoop, Layer, Loop } from '../document'
import { tooMuchToDraw, withColours } from '../document'
import {
  type Change,
  changedBy,
  clampToRange,
  filtersOf,
  type Inside,
  type LoopPicture,
  layerKind,
  movingProperty,
  type Placement,
  type PropertyValue,
  placementMatrix,
  propertyType,
  type Values,
} from '../layers'
import { type Medium, pictureAt } from '../media'
import { isOn, type MovingValue, motionValue, trembleValue } from '../motion'

/**
 * Value of one property of a layer at an unreduced frame, before it is clamped to its range: its motion plus its
 * tremble (for a colour, towards white and black), or the value of an active event. `shift` moves a staggered copy
 * ahead, in cycles.
 */
export function propertyAt(layer: Layer, property: string, frame: number, length: number, shift = 0): PropertyValue {
  const event = layer.events?.[property]
  if (event && isOn(event, frame, length, shift)) return event.value
  const motion = layer.motions[property]
  const described = layerKind(layer.kind).properties[property]
  const value =
    motion && described
      ? motionValue(motion, frame, length, movingProperty(described, layer.values).mix, shift)
      : (layer.values[property] ?? null)
  const tremble = layer.trembles?.[property]
  if (!tremble || value === null) return value
  const mixing = described && propertyType(described).mixing
  return mixing?.is(value) ? mixing.shake(value as MovingValue, trembleValue(tremble, frame, length, shift)) : value
}

const NONE = {}

/** The values of a layer at an unreduced frame, its motions applied. */
export function valuesAt(layer: Layer, frame: number, length: number, shift = 0): Values {
  const { motions, trembles = NONE, events = NONE } = layer
  const moving = [...Object.keys(motions), ...Object.keys(trembles), ...Object.keys(events)]
  if (moving.length === 0) return layer.values
  const { properties } = layerKind(layer.kind)
  const values: Record<string, PropertyValue> = { ...layer.values }
  for (const name of moving) {
    const property = properties[name]
    if (property) values[name] = clampToRange(property, propertyAt(layer, name, frame, length, shift))
  }
  return values
}

/** When and where something is evaluated. */
interface Moment {
  readonly frame: number
  readonly length: number
  readonly shift: number
  readonly loops: ReadonlyMap<string, InnerLoop>
  readonly media: readonly Medium[]
}

function evaluateLayer(layer: Layer, moment: Moment, changes?: readonly Change[], share = 0): DisplayNode {
  const kind = layerKind(layer.kind)
  const own = valuesAt(layer, moment.frame, moment.length, moment.shift)
  const values = changes ? changedBy(kind.properties, own, changes, share) : own
  const inside: Inside = {
    layers: (shift = 0, differences, part) =>
      evaluateLayers(
        layer.layers ?? [],
        shift === 0 ? moment : { ...moment, shift: moment.shift + shift },
        differences,
        part,
      ),
    loop: (id, cycles) => loopPicture(id, cycles, moment),
    picture: (id, cycles) => pictureAt(moment.media, id, cycles),
    medium: (id) => moment.media.find((each) => each.id === id) ?? null,
  }
  // A mask that is hidden masks nothing; what lies behind it does not take its place.
  const unmasked = kind.mask && layer.layers?.at(-1)?.hidden ? kind.mask.none(values) : values
  // An effect layer has no opacity and no blend mode of its own.
  const { opacity = 1, blend = 'normal' } = values as unknown as Partial<Placement>
  const filters = filtersOf(values)
  return {
    ...kind.draw(unmasked, inside),
    layerId: layer.id,
    transform: placementMatrix(values),
    opacity,
    blend: blend as BlendMode,
    ...(filters.length > 0 ? { filters } : {}),
  }
}

const evaluateLayers = (
  layers: readonly Layer[],
  moment: Moment,
  changes?: readonly Change[],
  share?: number,
): DisplayNode[] => layers.filter((layer) => !layer.hidden).map((layer) => evaluateLayer(layer, moment, changes, share))

/** Picture of an inner loop at a position in its cycles: a function on its own ring. */
function loopPicture(id: string, cycles: number, { loops, media }: Moment): LoopPicture | null {
  const inner = loops.get(id)
  if (!inner) return null
  const { width, height, background, layers, length } = inner
  const frame = wrapFrame(cycles * length, length)
  return { width, height, background, nodes: evaluateLayers(layers, { frame, length, shift: 0, loops, media }) }
}

const innerLoops = new WeakMap<readonly InnerLoop[], ReadonlyMap<string, InnerLoop>>()
function loopsById(loops: readonly InnerLoop[]): ReadonlyMap<string, InnerLoop> {
  const known = innerLoops.get(loops)
  if (known) return known
  const map = new Map(loops.map((each) => [each.id, each]))
  innerLoops.set(loops, map)
  return map
}

/**
 * The picture at an unreduced frame: any real number, N being the closing frame. Where every motion comes
 * home and goes on as it began, it equals the picture one loop earlier. Empty where there is too much to draw: tooMuchToDraw says so.
 */
export function evaluateUnreduced(loop: Loop, frame: number): DisplayList {
  const { width, height, background, layers, length, loops, media } = withColours(loop)
  // Before anything is evaluated: a few lines can describe more than any machine could hold.
  if (tooMuchToDraw(loop)) return { width, height, background, nodes: [] }
  const moment: Moment = { frame, length, shift: 0, loops: loopsById(loops), media }
  return { width, height, background, nodes: evaluateLayers(layers, moment) }
}

/** The picture at any frame, whole or fractional: a function of the loop and of n modulo N alone. */
export const evaluate = (loop: Loop, frame: number): DisplayList =>
  evaluateUnreduced(loop, wrapFrame(frame, loop.length))

/** Evaluates a loop at a frame: on its ring, or unreduced. */
export type Look = (loop: Loop, frame: number) => DisplayList

/**
 * The moments that make up a frame with blur in it: n + (j/S)·θ/360 for j = 0 … S − 1, θ being the shutter angle; the
 * frame itself where the shutter is shut. Taken modulo N, they run across the seam.
 */
export function exposures({ blur: { shutter, samples } }: Pick<Loop, 'blur'>, frame: number): number[] {
  if (shutter === 0) return [frame]
  return Array.from({ length: samples }, (_, j) => frame + ((j / samples) * shutter) / 360)
}
