import { layerKind, propertiesWith, propertyType } from '../layers'
import { type InnerLoop, type Layer, type Loop, referencesOf } from './document'

/** The most drawings that one moment of a loop may be made of: more is not evaluated, drawn or judged. */
const MAX_DRAWINGS = 100_000

const ofLayers = new WeakMap<readonly Layer[], { readonly loops: readonly InnerLoop[]; readonly cost: number }>()

/** How many drawings layers are evaluated to, counted without evaluating them: copies times what they hold, placed loops with theirs. */
function costOf(layers: readonly Layer[], loops: readonly InnerLoop[], depth = 0): number {
  const known = ofLayers.get(layers)
  if (known?.loops === loops) return known.cost
  let cost = 0
  for (const layer of layers) {
    if (layer.hidden) continue
    const { kind, values, layers: held = [] } = layer
    const { repeats, drawsHeld, drawings } = layerKind(kind)
    cost += drawings?.(values) ?? 1
    for (const [name, property] of propertiesWith(kind, 'cost'))
      if (property.when?.(values) ?? true) cost += propertyType(property).cost?.(values[name] ?? null) ?? 0
    if (held.length > 0) cost += costOf(held, loops, depth) * (repeats?.count(values) ?? drawsHeld?.(values) ?? 1)
    // No loop is placed in itself, so that they cannot stand deeper in each other than there are loops.
    const placed = depth <= loops.length ? referencesOf(layer).filter(({ to }) => to === 'loop') : []
    for (const { id } of placed) {
      const inner = loops.find((each) => each.id === id)
      if (inner) cost += costOf(inner.layers, loops, depth + 1)
    }
  }
  ofLayers.set(layers, { loops, cost })
  return cost
}

/** How many drawings one moment of a loop is made of, about. */
export const drawingsOf = ({ layers, loops }: Pick<Loop, 'layers' | 'loops'>): number =>
  Math.ceil(costOf(layers, loops))

/** Why a loop is not drawn, in words; null where it is. */
export function tooMuchToDraw(loop: Pick<Loop, 'layers' | 'loops'>): string | null {
  const drawings = drawingsOf(loop)
  if (drawings <= MAX_DRAWINGS) return null
  const many = drawings < 1e6 ? drawings.toLocaleString('en') : `about 10^${Math.floor(Math.log10(drawings))}`
  return `A frame of this loop is made of ${many} shapes; up to ${MAX_DRAWINGS.toLocaleString('en')} can be drawn. Take fewer copies, or copies of less.`
}
