import { changeLayer, findPlace, insertLayers, type Layer, type Loop } from '../document'
import { newId } from '../id'
import { layerKind, type Values } from '../layers'
import { boxCentre, IDENTITY, invert, type Matrix, transformPoint } from '../path'
import { freeName, groupLayers, newLayer, parentMatrix, stageBounds } from './edit'

type Made = { readonly loop: Loop; readonly id: string }

const isEffect = ({ kind }: Layer): boolean => layerKind(kind).effect !== undefined
const isMasked = ({ kind, values }: Layer): boolean => layerKind(kind).mask?.cuts(values) ?? false

/** Whether a layer stands for itself with effects, or a mask, in a group: then more of them go there. */
const standsAlone = (siblings: readonly Layer[], index: number): boolean =>
  index === 0 && siblings.length > 1 && siblings.slice(1).every(isEffect)

/** A layer in the middle of the frame, in the coordinates of what it is put into. */
const centred = (layer: Layer, loop: Loop, outer: Matrix, ids: readonly string[], frame: number): Layer => {
  const box = ids.length > 0 ? stageBounds(loop, ids, frame) : null
  const middle = box ? boxCentre(box) : { x: loop.width / 2, y: loop.height / 2 }
  const inverse = invert(outer)
  return inverse ? { ...layer, values: { ...layer.values, ...transformPoint(inverse, middle) } } : layer
}

/**
 * The loop with an effect on the selected layers, which are put into a group of their own with it in front; on all that lies
 * behind where nothing is selected; in a grade, or in front of an effect, that is selected; behind a mask that is. Returns its id too; null where
 * groups would stand too deep.
 */
export function addEffect(
  loop: Loop,
  ids: readonly string[],
  kind: string,
  frame: number,
  id = newId(),
  { name = layerKind(kind).label, values = {} }: { readonly name?: string; readonly values?: Values } = {},
): Made | null {
  const effect = newLayer(kind, freeName(loop, name), values, id)
  const [first] = ids
  const place = first === undefined ? undefined : findPlace(loop, first)
  const put = (changed: Loop): Made | null => (findPlace(changed, id) ? { loop: changed, id } : null)
  if (!place || !first) return put(insertLayers(loop, [centred(effect, loop, IDENTITY, [], frame)]))
  const outer = parentMatrix(place.parents, frame, loop.length)
  const siblings = place.parents.at(-1)?.layers ?? loop.layers
  if (ids.length === 1 && isEffect(place.layer)) {
    const side = place.layer.kind === effect.kind || !holdsOnly(place.layer) ? 'front' : 'inside'
    return put(insertLayers(loop, [centred(effect, loop, outer, [], frame)], { id: first, side }))
  }
  const group = place.parents.at(-1)
  const masked = ids.length === 1 ? maskedBy(loop, first) : null
  // A mask is left as it is: what it masks is changed.
  if (masked && !isEffect(masked) && group)
    return put(
      insertLayers(loop, [centred(effect, loop, outer, siblingsOf(siblings, first), frame)], {
        id: first,
        side: 'back',
      }),
    )
  if (ids.length === 1 && group && standsAlone(siblings, place.index)) {
    const front = siblings.at(-1) as Layer
    return put(insertLayers(loop, [centred(effect, loop, outer, ids, frame)], { id: front.id, side: 'front' }))
  }
  if (ids.length === 1 && place.layer.layers && layerKind(place.layer.kind).mask && !isMasked(place.layer)) {
    const inner = parentMatrix([...place.parents, place.layer], frame, loop.length)
    return put(insertLayers(loop, [centred(effect, loop, inner, ids, frame)], { id: first, side: 'inside' }))
  }
  const grouped = groupedAs(loop, ids, frame, `${place.layer.name} with effects`)
  if (!grouped) return null
  const within = centred(effect, loop, grouped.outer, ids, frame)
  return put(insertLayers(grouped.loop, [within], { id: grouped.id, side: 'inside' }))
}

const siblingsOf = (layers: readonly Layer[], id: string): string[] =>
  layers.map((layer) => layer.id).filter((each) => each !== id)

/** Whether an effect does nothing by itself: its own properties are those that all effects have. */
const holdsOnly = ({ kind }: Layer): boolean => layerKind(kind).effect?.heldOnly === true

/** Layers in a group of a name; null where that cannot be. */
function groupedAs(loop: Loop, ids: readonly string[], frame: number, name: string) {
  const id = newId()
  const grouped = groupLayers(loop, ids, frame, id)
  const place = findPlace(grouped, id)
  if (!place) return null
  const outer = parentMatrix([...place.parents, place.layer], frame, loop.length)
  return { loop: changeLayer(grouped, id, (layer) => ({ ...layer, name: freeName(loop, name) })), id, outer }
}

/**
 * The loop with a layer that masks the selected ones, which are put into a group with it in front; in an effect, where that is
 * selected: it says where it acts. Returns the id of the mask; null where nothing is selected, or groups would stand too deep.
 */
export function addMask(loop: Loop, ids: readonly string[], mask: Layer, frame: number): Made | null {
  const [first] = ids
  const place = first === undefined ? undefined : findPlace(loop, first)
  if (!place || !first) return null
  const put = (changed: Loop): Made | null => (findPlace(changed, mask.id) ? { loop: changed, id: mask.id } : null)
  if (ids.length === 1 && isEffect(place.layer)) {
    const outer = parentMatrix([...place.parents, place.layer], frame, loop.length)
    return put(insertLayers(loop, [centred(mask, loop, outer, [], frame)], { id: first, side: 'inside' }))
  }
  const grouped = groupedAs(loop, ids, frame, `${place.layer.name} in a mask`)
  if (!grouped) return null
  const masked = changeLayer(grouped.loop, grouped.id, (layer) => ({
    ...layer,
    values: { ...layer.values, mask: 'shape' },
  }))
  return put(insertLayers(masked, [centred(mask, loop, grouped.outer, [], frame)], { id: grouped.id, side: 'inside' }))
}

/** The group or effect that a layer is the mask of; null where it is none. */
export function maskedBy(loop: Loop, id: string): Layer | null {
  const place = findPlace(loop, id)
  const holder = place?.parents.at(-1)
  if (!place || !holder) return null
  if (isMasked(holder)) return holder.layers?.at(-1)?.id === id ? holder : null
  return isEffect(holder) && !isEffect(place.layer) ? holder : null
}

/** How opaque a mask is shown as a tint. */
const TINT = 0.55

/** The loop with a mask shown as a tint over what it would hide. Unchanged where the layer is no mask. */
export function withTint(loop: Loop, id: string, colour: string): Loop {
  const holder = maskedBy(loop, id)
  if (!holder) return loop
  const tinted = (layer: Layer): Layer => ({
    ...layer,
    values: { ...layer.values, ...('colour' in layer.values ? { colour } : { fill: colour }), opacity: TINT },
  })
  const place = findPlace(loop, id)
  if (!place) return loop
  if (isMasked(holder))
    return changeLayer(loop, holder.id, (layer) => ({
      ...layer,
      values: { ...layer.values, ...layerKind(layer.kind).mask?.none(layer.values) },
      layers: layer.layers?.map((each) => (each.id === id ? tinted(each) : each)) ?? [],
    }))
  // Where an effect acts lies in front of what it acts on.
  const group = newLayer('group', place.layer.name, { ...holder.values, blend: 'normal' }, `${id}-tint`)
  return insertLayers(loop, [{ ...group, layers: [tinted({ ...place.layer, id: `${id}-shown` })] }], {
    id: holder.id,
    side: 'front',
  })
}

/** The loop as it is behind a layer: neither it nor anything in front of it is shown. */
export function behindLayer(loop: Loop, id: string): Loop {
  const place = findPlace(loop, id)
  if (!place) return loop
  const way = new Set([...place.parents.map((parent) => parent.id), id])
  const cut = (layers: readonly Layer[]): readonly Layer[] => {
    const at = layers.findIndex((layer) => way.has(layer.id))
    return layers.map((layer, i) => {
      if (i < at) return layer
      if (i > at || layer.id === id || !layer.layers) return { ...layer, hidden: true }
      return { ...layer, layers: cut(layer.layers) }
    })
  }
  return { ...loop, layers: cut(loop.layers) }
}

/** The loop with nothing but one of its masks, on nothing. */
export function maskAlone(loop: Loop, id: string): Loop {
  const place = findPlace(loop, id)
  if (!place) return { ...loop, layers: [] }
  const alone = place.parents.reduceRight<Layer>((held, parent) => {
    const { values } = newLayer('group', parent.name)
    const placed = Object.keys(values).filter((name) => name in parent.values && name !== 'mask')
    return {
      ...parent,
      kind: 'group',
      values: { ...values, ...Object.fromEntries(placed.map((name) => [name, parent.values[name] ?? null])) },
      motions: kept(parent.motions, placed),
      trembles: kept(parent.trembles ?? {}, placed),
      events: kept(parent.events ?? {}, placed),
      layers: [held],
    }
  }, place.layer)
  return { ...loop, background: null, layers: [alone] }
}

const kept = <T>(of: Readonly<Record<string, T>>, names: readonly string[]): Readonly<Record<string, T>> =>
  Object.fromEntries(Object.entries(of).filter(([name]) => names.includes(name)))
