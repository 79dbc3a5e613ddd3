import { allLayers, type Layer, type Loop } from '../document'
import { layerKind } from '../layers'
import type { Key, Motion } from '../motion'
import { movingNames } from './keys'

/** Sections of properties that say how a layer looks, not what or where it is. */
const LOOKS = ['fill', 'stroke', 'effects']
/** Properties that move relative to the place of a layer, not to a value of their own. */
const FROM_PLACE = ['x', 'y']

/** A layer that looks as another does, as far as it has the same properties. */
export function withStyleOf(layer: Layer, other: Layer): Layer {
  const own = layerKind(layer.kind).properties
  const theirs = layerKind(other.kind).properties
  const taken = Object.entries(own).filter(
    ([name, { section, type }]) => LOOKS.includes(section) && theirs[name]?.type === type && name in other.values,
  )
  return {
    ...layer,
    values: { ...layer.values, ...Object.fromEntries(taken.map(([name]) => [name, other.values[name] ?? null])) },
  }
}

/** A layer that moves as another does, from where it stands: motions, trembles and events of properties that both have, in place of its own of these. */
export function withMotionsOf(layer: Layer, other: Layer): Layer {
  const own = layerKind(layer.kind).properties
  const theirs = layerKind(other.kind).properties
  const shared = (name: string) => own[name]?.moves === true && own[name]?.type === theirs[name]?.type
  const pick = <T>(of: Readonly<Record<string, T>> = {}) => Object.entries(of).filter(([name]) => shared(name))
  const from = (name: string, motion: Motion): Motion => {
    if (!FROM_PLACE.includes(name)) return motion
    const by = Number(layer.values[name]) - Number(other.values[name])
    return { ...motion, keys: motion.keys.map((key): Key => ({ ...key, value: Number(key.value) + by })) }
  }
  const trembles = pick(other.trembles)
  const events = pick(other.events)
  return {
    ...layer,
    motions: {
      ...layer.motions,
      ...Object.fromEntries(pick(other.motions).map(([name, motion]) => [name, from(name, motion)])),
    },
    ...(trembles.length > 0 && { trembles: { ...layer.trembles, ...Object.fromEntries(trembles) } }),
    ...(events.length > 0 && { events: { ...layer.events, ...Object.fromEntries(events) } }),
  }
}

/** By what layers are alike. */
export const ALIKE = ['kind', 'colour', 'motion'] as const
export type Alike = (typeof ALIKE)[number]

const traitOf: Readonly<Record<Alike, (layer: Layer) => string>> = {
  kind: ({ kind }) => kind,
  colour: ({ values }) => JSON.stringify([values.fill ?? null, values.stroke ?? null]),
  motion: (layer) => movingNames(layer).toSorted().join(' '),
}

/** Ids of all layers that are like one of some, these among them. */
export function likeThese(loop: Loop, ids: readonly string[], by: Alike): string[] {
  const all = allLayers(loop)
  const wanted = new Set(all.filter(({ id }) => ids.includes(id)).map(traitOf[by]))
  return all.filter((layer) => wanted.has(traitOf[by](layer))).map(({ id }) => id)
}
