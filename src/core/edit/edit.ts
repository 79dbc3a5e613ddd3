import { boundNumber } from '../bounds'
import type { Clock } from '../clock'
import {
  FORMAT,
  findPlace,
  insertLayers,
  type Layer,
  type Loop,
  MAX_NAME,
  NO_BLUR,
  places,
  removeLayers,
  replaceLayer,
  VERSION,
  withinLimits,
} from '../document'
import { valuesAt } from '../evaluate'
import { newId } from '../id'
import {
  clampToRange,
  defaultValues,
  filtersOf,
  layerKind,
  PLACEMENT,
  type PropertyValue,
  placementMatrix,
  propertyType,
  type Values,
} from '../layers'
import { evenly, isOn, type MovingValue, trembleValue } from '../motion'
import {
  type Box,
  boxAround,
  boxCentre,
  boxCorners,
  compose,
  IDENTITY,
  type Matrix,
  type Point,
  transformPoint,
} from '../path'
import { movingNames, setKeyAtFrame } from './keys'

/** Answers of the dialog for a new loop. */
export interface Brief extends Clock {
  readonly name: string
  readonly kind: Loop['kind']
  readonly width: number
  readonly height: number
  readonly background: string | null
}

/** An empty loop that answers a brief. */
export const newLoop = (brief: Brief, id = newId()): Loop => ({
  format: FORMAT,
  version: VERSION,
  id,
  name: brief.name,
  kind: brief.kind,
  width: brief.width,
  height: brief.height,
  background: brief.background,
  rate: brief.rate,
  length: brief.length,
  layers: [],
  blur: NO_BLUR,
  palette: [],
  loops: [],
  media: [],
})

/** A layer of a kind with its default values, but for those given. @throws RangeError for an unknown kind. */
export function newLayer(kind: string, name: string, values: Values = {}, id = newId()): Layer {
  const { properties, holdsLayers, begins = [] } = layerKind(kind)
  const known = Object.entries(values).filter(([key]) => key in properties)
  return {
    id,
    kind,
    name,
    hidden: false,
    locked: false,
    values: { ...defaultValues(properties), ...Object.fromEntries(known) },
    motions: Object.fromEntries(begins.map((property) => [property, evenly(1)])),
    ...(holdsLayers ? { layers: [] } : {}),
  }
}

/** A name that no layer has yet: `Ellipse`, `Ellipse 2`, `Ellipse 3` … */
export function freeName(loop: Loop, wanted: string): string {
  const taken = new Set([...places(loop.layers)].map(({ layer }) => layer.name))
  const stem = wanted.replace(/ \d+$/, '').slice(0, MAX_NAME - 8)
  if (!taken.has(stem)) return stem
  let number = 2
  while (taken.has(`${stem} ${number}`)) number++
  return `${stem} ${number}`
}

/**
 * A layer with one value changed, as seen at a frame: a property that moves gets a key there, another one its
 * value; where it trembles, what is trembled around; while an event is on, what it shows. The value is kept in the
 * property's range.
 */
export function setValue(layer: Layer, name: string, value: PropertyValue, frame: number, length: number): Layer {
  const property = layerKind(layer.kind).properties[name]
  if (!property) throw new RangeError(`${layer.kind} has no property called “${name}”`)
  const kept = clampToRange(property, value)
  const { mixing } = propertyType(property)
  const moving = mixing?.is(kept) ? (kept as MovingValue) : null
  const event = layer.events?.[name]
  if (event && isOn(event, frame, length) && moving !== null)
    return { ...layer, events: { ...layer.events, [name]: { ...event, value: moving } } }
  const tremble = layer.trembles?.[name]
  // A colour that has been shaken cannot be told from one that has not.
  if (tremble && moving !== null && mixing?.accumulates) {
    const { [name]: _apart, ...others } = layer.trembles ?? {}
    const shaken = mixing.shake(moving, -trembleValue(tremble, frame, length))
    const still = typeof shaken === 'number' ? Number(shaken.toFixed(9)) + 0 : shaken
    const set = setValue({ ...layer, trembles: others }, name, still, frame, length)
    return { ...set, trembles: { ...layer.trembles, [name]: tremble } }
  }
  const motion = layer.motions[name]
  if (motion && moving !== null)
    return { ...layer, motions: { ...layer.motions, [name]: setKeyAtFrame(motion, moving, frame, length) } }
  return { ...layer, values: { ...layer.values, [name]: kept } }
}

const insideOf = (layer: Layer, values: Values): readonly Matrix[] =>
  layerKind(layer.kind).placesInside?.(values) ?? [IDENTITY]

/** The transform from a layer's parents to the stage at a frame; of copies it is that of the first. */
export const parentMatrix = (parents: readonly Layer[], frame: number, length: number): Matrix =>
  parents.reduce((outer, parent) => {
    const values = valuesAt(parent, frame, length)
    return compose(compose(outer, placementMatrix(values)), insideOf(parent, values)[0] ?? IDENTITY)
  }, IDENTITY)

/** The box of a layer about its own centre at a frame; null for an empty group. */
export function localBounds(layer: Layer, frame: number, length: number): Box | null {
  const values = valuesAt(layer, frame, length)
  const own = layerKind(layer.kind).bounds(values)
  if (own) return own
  const corners = (layer.layers ?? []).flatMap((child) => cornersInParent(child, frame, length))
  return boxAround(insideOf(layer, values).flatMap((place) => corners.map((corner) => transformPoint(place, corner))))
}

/** The corners of a layer's box in its parent's coordinates. */
function cornersInParent(layer: Layer, frame: number, length: number): Point[] {
  const box = localBounds(layer, frame, length)
  const matrix = placementMatrix(valuesAt(layer, frame, length))
  return box ? boxCorners(box).map((corner) => transformPoint(matrix, corner)) : []
}

/** The box of layers in stage coordinates, wherever they stand in the tree; null where they are all empty. */
export function stageBounds(loop: Loop, ids: readonly string[], frame: number): Box | null {
  return boxAround(
    ids.flatMap((id) => {
      const place = findPlace(loop, id)
      if (!place) return []
      const outer = parentMatrix(place.parents, frame, loop.length)
      return cornersInParent(place.layer, frame, loop.length).map((corner) => transformPoint(outer, corner))
    }),
  )
}

/**
 * Moves the pivot to a point of the layer's own coordinates without moving the picture at this frame: x and y take
 * up the difference, so that what turns from here on turns about the new point.
 */
export function movePivot(layer: Layer, pivot: Point, frame: number, length: number): Layer {
  const before = valuesAt(layer, frame, length)
  const moved = setValue(setValue(layer, 'pivotX', pivot.x, frame, length), 'pivotY', pivot.y, frame, length)
  const origin = { x: 0, y: 0 }
  const was = transformPoint(placementMatrix(before), origin)
  const is = transformPoint(placementMatrix(valuesAt(moved, frame, length)), origin)
  const shift = (value: PropertyValue | undefined, by: number) => Number(value) + by
  const withX = setValue(moved, 'x', shift(before.x, was.x - is.x), frame, length)
  return setValue(withX, 'y', shift(before.y, was.y - is.y), frame, length)
}

/** The layer with its pivot in the middle of what it draws. */
export function centrePivot(layer: Layer, frame: number, length: number): Layer {
  const box = localBounds(layer, frame, length)
  return box ? movePivot(layer, boxCentre(box), frame, length) : layer
}

/**
 * The loop with sibling layers put into one group, which stands where the frontmost of them stood. Unchanged where groups
 * would stand too deep.
 */
export function groupLayers(loop: Loop, ids: readonly string[], frame: number, id = newId()): Loop {
  const [first] = ids
  const place = first === undefined ? undefined : findPlace(loop, first)
  if (!place) return loop
  const siblings = place.parents.at(-1)?.layers ?? loop.layers
  const members = siblings.filter((layer) => ids.includes(layer.id))
  const front = members.at(-1)
  if (!front) return loop
  const empty = newLayer('group', freeName(loop, 'Group'), {}, id)
  const group = centrePivot({ ...empty, layers: members }, frame, loop.length)
  const rest = members.filter((layer) => layer.id !== front.id).map((layer) => layer.id)
  const without = removeLayers(loop, rest)
  return withinLimits({ ...without, layers: replaceLayer(without.layers, front.id, () => group) }, loop)
}

/**
 * Whether a group can be taken apart without changing the picture: it must not move, blend, fade or scale unevenly
 * by itself, nor mask or filter what it holds, and nothing in it may move its pivot, or its place while the group is turned.
 */
export function canUngroup(layer: Layer): boolean {
  const { opacity, blend, scaleX, scaleY, rotation, mask } = layer.values
  const plain =
    opacity === 1 && blend === 'normal' && scaleX === scaleY && mask === 'none' && filtersOf(layer.values).length === 0
  const tangled = Number(rotation) % 360 === 0 ? ['pivotX', 'pivotY'] : ['pivotX', 'pivotY', 'x', 'y']
  const placing = Object.keys(PLACEMENT)
  const free = layer.layers?.every(
    (child) =>
      tangled.every((name) => !child.motions[name]) &&
      placing.every((name) => !child.trembles?.[name] && !child.events?.[name]),
  )
  const changing = layer.layers?.some(({ kind }) => layerKind(kind).effect) ?? false
  return free === true && movingNames(layer).length === 0 && plain && !changing
}

/**
 * The loop with a group replaced by its layers, placed so that the picture stays. A group for which canUngroup says
 * no is left as it is.
 */
export function ungroup(loop: Loop, id: string): Loop {
  const group = findPlace(loop, id)?.layer
  if (!group?.layers || !canUngroup(group)) return loop
  const outer = placementMatrix(group.values)
  const rotation = Number(group.values.rotation)
  const scale = Number(group.values.scaleX)
  const released = group.layers.map((layer) => release(layer, outer, rotation, scale))
  return { ...loop, layers: replaceLayer(loop.layers, id, () => released) }
}

/** A layer taken out of a group: turned and scaled by what the group did, its pivot put where the group showed it. */
function release(layer: Layer, outer: Matrix, rotation: number, scale: number): Layer {
  const shiftMotion = (name: string, map: (value: number) => number): Layer['motions'] => {
    const motion = layer.motions[name]
    return motion
      ? {
          [name]: {
            ...motion,
            keys: motion.keys.map((key) => ({ ...key, value: boundNumber(map(Number(key.value))) })),
          },
        }
      : {}
  }
  const { x, y, pivotX, pivotY } = layer.values
  const px = Number(pivotX)
  const py = Number(pivotY)
  const pivot = transformPoint(outer, { x: Number(x) + px, y: Number(y) + py })
  const origin = transformPoint(outer, { x: 0, y: 0 })
  const along = (offset: number, p: number) => (v: number) => offset - p + scale * (v + p)
  return {
    ...layer,
    values: {
      ...layer.values,
      x: boundNumber(pivot.x - px),
      y: boundNumber(pivot.y - py),
      rotation: boundNumber(Number(layer.values.rotation) + rotation),
      scaleX: boundNumber(Number(layer.values.scaleX) * scale),
      scaleY: boundNumber(Number(layer.values.scaleY) * scale),
    },
    motions: {
      ...layer.motions,
      ...shiftMotion('x', along(origin.x, px)),
      ...shiftMotion('y', along(origin.y, py)),
      ...shiftMotion('rotation', (v) => v + rotation),
      ...shiftMotion('scaleX', (v) => v * scale),
      ...shiftMotion('scaleY', (v) => v * scale),
    },
  }
}

/** A copy of a layer and all it holds, with fresh ids. */
export const copyLayer = (layer: Layer, fresh: () => string = newId): Layer => ({
  ...layer,
  id: fresh(),
  ...(layer.layers ? { layers: layer.layers.map((child) => copyLayer(child, fresh)) } : {}),
})

/** The loop with copies of layers in front of each; returns the ids of the copies too. */
export function duplicateLayers(loop: Loop, ids: readonly string[]): { loop: Loop; copies: string[] } {
  const copies: string[] = []
  const next = ids.reduce((current, id) => {
    const place = findPlace(current, id)
    if (!place) return current
    const copy = { ...copyLayer(place.layer), name: freeName(current, place.layer.name) }
    copies.push(copy.id)
    return insertLayers(current, [copy], { id, side: 'front' })
  }, loop)
  return { loop: next, copies }
}
