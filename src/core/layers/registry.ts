import type { LayerKind } from './kind'
import { LAYER_KINDS } from './kinds'

const byName = new Map(LAYER_KINDS.map((kind) => [kind.kind, kind]))

/** The kind of a layer. @throws RangeError for a name that no kind has. */
export function layerKind(name: string): LayerKind {
  const kind = byName.get(name)
  if (!kind) throw new RangeError(`there is no kind of layer called “${name}”`)
  return kind
}
