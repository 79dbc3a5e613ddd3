import type { MotionReport } from '../closing'
import { type Layer, type Loop, places } from '../document'
import { propertyAt } from '../evaluate'
import { layerKind, movingProperty } from '../layers'
import { reduceGap } from '../motion'
import { greatest, median } from '../statistics'

/** Origin of a fault that the pictures show. */
export interface Cause {
  /** `Lamp, opacity, an event`. */
  readonly words: string
  /** True for an event of a few frames and for a tremble: both repeat by construction. */
  readonly repeatsItself: boolean
  /** The report of the motion, where there is one. */
  readonly report: MotionReport | null
}

/** In longer loops only this many steps before the one in question are looked at. */
const MAX_STEPS = 600

/**
 * The property whose value does at a frame what the pictures show there: of all that moves, trembles or happens, the one whose step
 * from that frame to the next stands out most among its own. Null where none stands out.
 */
export function seamCause(loop: Loop, frame: number, reports: readonly MotionReport[]): Cause | null {
  const { length } = loop
  let best: (Cause & { readonly outstanding: number }) | null = null
  for (const { layer, parents } of places(loop.layers)) {
    if ([layer, ...parents].some(({ hidden }) => hidden)) continue
    for (const [name, how] of movingNames(layer)) {
      const property = layerKind(layer.kind).properties[name]
      if (!property) continue
      const { distance, equivalence, threshold } = movingProperty(property, layer.values)
      const value = (n: number) => propertyAt(layer, name, n, length) as never
      const step = (n: number) => Math.abs(reduceGap(distance(value(n), value(n + 1)), equivalence))
      const others = Array.from({ length: Math.min(length - 1, MAX_STEPS) }, (_, n) => step((frame + 1 + n) % length))
      const own = step(frame)
      if (own <= threshold) continue
      const outstanding = own / Math.max(threshold, median(others), 0.5 * greatest(others))
      if (best && outstanding <= best.outstanding) continue
      const report = reports.find((each) => each.layer.id === layer.id && each.name === name && !each.inside) ?? null
      best = {
        words: `${layer.name}, ${property.label}${how}`,
        repeatsItself: how === HAPPENS || how === TREMBLES,
        report,
        outstanding,
      }
    }
  }
  return best
}

const TREMBLES = ', which trembles'
const HAPPENS = ', which happens for a few frames'

function movingNames({ motions, trembles = {}, events = {} }: Layer): [name: string, how: string][] {
  const named = (those: object, how: string) => Object.keys(those).map((name): [string, string] => [name, how])
  return [...named(events, HAPPENS), ...named(motions, ''), ...named(trembles, ', which trembles')]
}
