import { colourName } from '../colour'
import type { Change, PropertyValue, Stop, Values } from '../layers'
import type { Motion, MotionEvent, MovingValue } from '../motion'
import type { InnerLoop, Layer, Loop, NamedColour } from './document'

type Palette = ReadonlyMap<string, string>

/** A layer with colours mapped wherever it has any: in values, keys, events and changes. */
export function mapColours(layer: Layer, map: (colour: string) => string): Layer {
  const moved = (value: MovingValue): MovingValue => (typeof value === 'string' ? map(value) : value)
  const value = (each: PropertyValue): PropertyValue => {
    if (typeof each === 'string') return map(each)
    if (!Array.isArray(each) || typeof each[0] !== 'object') return each
    return (each as readonly (Change | Stop)[]).map((part) =>
      'to' in part ? { ...part, to: moved(part.to) } : { ...part, colour: map(part.colour) },
    ) as PropertyValue
  }
  const entries = <T, U>(record: Readonly<Record<string, T>>, change: (each: T) => U) =>
    Object.fromEntries(Object.entries(record).map(([name, each]) => [name, change(each)]))
  const motion = (each: Motion): Motion => ({
    ...each,
    keys: each.keys.map((key) => ({ ...key, value: moved(key.value) })),
  })
  const event = (each: MotionEvent): MotionEvent => ({ ...each, value: moved(each.value) })
  return {
    ...layer,
    values: entries(layer.values, value) as Values,
    motions: entries(layer.motions, motion),
    ...(layer.events ? { events: entries(layer.events, event) } : {}),
    ...(layer.layers ? { layers: layer.layers.map((child) => mapColours(child, map)) } : {}),
  }
}

const known = new WeakMap<readonly NamedColour[], WeakMap<object, unknown>>()

/** A thing made once for a palette and a part of a document. */
function once<T extends object>(palette: readonly NamedColour[], part: T, make: () => T): T {
  const made = known.get(palette) ?? new WeakMap<object, unknown>()
  known.set(palette, made)
  const found = made.get(part) as T | undefined
  if (found) return found
  const result = make()
  made.set(part, result)
  return result
}

/**
 * The loop with every named colour in its place; one that the palette does not have is transparent. Parts that have
 * not changed are the same objects as before.
 */
export function withColours(loop: Loop): Loop {
  const { palette } = loop
  if (palette.length === 0) return loop
  return once(palette, loop, () => {
    const colours: Palette = new Map(palette.map(({ name, colour }) => [name, colour]))
    const map = (text: string) => {
      const name = colourName(text)
      return name === null ? text : (colours.get(name) ?? 'transparent')
    }
    const layer = (each: Layer): Layer => once(palette, each, () => mapColours(each, map))
    const ground = (background: string | null) => background && map(background)
    const inner = (each: InnerLoop): InnerLoop =>
      once(palette, each, () => ({
        ...each,
        background: ground(each.background),
        layers: each.layers.map(layer),
      }))
    return {
      ...loop,
      background: ground(loop.background),
      layers: loop.layers.map(layer),
      loops: loop.loops.map(inner),
    }
  })
}
