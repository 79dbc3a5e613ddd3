import { allLayers, changeLayer, findLayer, type Layer, type Loop } from '../document'
import { layerKind } from '../layers'
import { withMotionsOf } from './taken-over'

/** Effect of an edit on one layer: the layer before and after. */
export interface LayerEdit {
  readonly before: Layer
  readonly after: Layer
}

/** Properties that are moved by the same offset, not to the same place. */
const BY_AS_MUCH = ['x', 'y', 'pivotX', 'pivotY']
const MOVING = ['motions', 'trembles', 'events'] as const

/** Effect of an edit on the first layer it changed; null if it changed none that exists both before and after. */
export function editOf(before: Loop, after: Loop): LayerEdit | null {
  const known = new Map(allLayers(before).map((layer) => [layer.id, layer]))
  for (const layer of allLayers(after)) {
    const was = known.get(layer.id)
    if (was && was !== layer && touches(was, layer)) return { before: was, after: layer }
  }
  return null
}

const touches = (before: Layer, after: Layer): boolean =>
  before.hidden !== after.hidden ||
  before.locked !== after.locked ||
  Object.keys(after.values).some((name) => !same(before.values[name], after.values[name])) ||
  MOVING.some((what) => !same(before[what] ?? {}, after[what] ?? {}))

const same = (a: unknown, b: unknown): boolean => a === b || JSON.stringify(a) === JSON.stringify(b)

/** A layer with an edit of another one done to it, as far as it has the same properties: places by as much, all else to the same; motions from where it stands. */
function withEdit(layer: Layer, { before, after }: LayerEdit): Layer {
  const own = layerKind(layer.kind).properties
  const theirs = layerKind(after.kind).properties
  const shared = (name: string) => own[name] !== undefined && own[name].type === theirs[name]?.type
  const values = { ...layer.values }
  for (const [name, value] of Object.entries(after.values)) {
    if (!shared(name) || same(before.values[name], value)) continue
    values[name] = BY_AS_MUCH.includes(name)
      ? Number(layer.values[name]) + Number(value) - Number(before.values[name])
      : value
  }
  const flag = (name: 'hidden' | 'locked') => (before[name] === after[name] ? layer[name] : after[name])
  let made: Layer = { ...layer, values, hidden: flag('hidden'), locked: flag('locked') }
  for (const what of MOVING) {
    const changed = Object.keys({ ...before[what], ...after[what] }).filter(
      (name) => shared(name) && !same(before[what]?.[name], after[what]?.[name]),
    )
    if (changed.length === 0) continue
    const given = Object.fromEntries(Object.entries(after[what] ?? {}).filter(([name]) => changed.includes(name)))
    const kept = Object.fromEntries(
      Object.entries(made[what] ?? {}).filter(([name]) => !changed.includes(name) || name in given),
    )
    made = withMotionsOf({ ...made, [what]: kept }, { ...after, motions: {}, trembles: {}, events: {}, [what]: given })
  }
  return made
}

/** The loop with the edit done to more of its layers. */
export const repeatEdit = (loop: Loop, ids: readonly string[], edit: LayerEdit): Loop =>
  ids.reduce((made, id) => (findLayer(made, id) ? changeLayer(made, id, (layer) => withEdit(layer, edit)) : made), loop)
