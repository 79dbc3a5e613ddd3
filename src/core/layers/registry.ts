import type { LayerKind } from './kind'
import { LAYER_KINDS } from './kinds'
import type { Property } from './property'
import { type PropertyType, propertyType } from './types'

const byName = new Map(LAYER_KINDS.map((kind) => [kind.kind, kind]))

/** The kind of a layer. @throws RangeError for a name that no kind has. */
export function layerKind(name: string): LayerKind {
  const kind = byName.get(name)
  if (!kind) throw new RangeError(`there is no kind of layer called “${name}”`)
  return kind
}

const having = new Map<string, readonly (readonly [name: string, property: Property])[]>()

/** The properties of a kind whose type has a trait, such as `references`: found once, since whole documents are asked for them. */
export function propertiesWith(kind: string, trait: keyof PropertyType) {
  const key = `${kind} ${trait}`
  const known = having.get(key)
  if (known) return known
  const found = Object.entries(layerKind(kind).properties).filter(([, property]) => propertyType(property)[trait])
  having.set(key, found)
  return found
}
