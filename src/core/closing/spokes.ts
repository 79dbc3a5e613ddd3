import { type DisplayNode, nodeType } from '../display'
import { type Layer, type Loop, NO_BLUR, placedLoops } from '../document'
import { evaluateUnreduced } from '../evaluate'
import { layerKind, type Values } from '../layers'
import { compose, type Matrix, type Point } from '../path'

/** Numbers that tell drawings apart, but for the order of their points: a line that is turned by half looks the same. */
function signature(node: DisplayNode, outer: Matrix): string[] {
  const matrix = compose(outer, node.transform)
  const paint = [node.opacity, node.blend, node.filters]
  const type = nodeType(node)
  if (type.held)
    return type
      .held(node)
      .flatMap((child) => signature(child, matrix))
      .map((each) => `${paint}${each}`)
  return [JSON.stringify([paint, type.mark(node, matrix)])]
}

const LIKE_SPOKES = 36

/**
 * How many turns of a drawing about a point look alike: 4 for a wheel of four like spokes. 1 where none does. Like
 * things are told by their paint and points, to a twentieth of a px.
 */
function foldOfNodes(nodes: readonly DisplayNode[], pivot: Point): number {
  const about = (degrees: number): Matrix => {
    const angle = (degrees * Math.PI) / 180
    const cos = Math.cos(angle)
    const sin = Math.sin(angle)
    const turn: Matrix = [cos, sin, -sin, cos, 0, 0]
    return compose(turn, [1, 0, 0, 1, -pivot.x, -pivot.y])
  }
  const seen = (degrees: number) => nodes.flatMap((node) => signature(node, about(degrees))).sort()
  if (nodes.length === 0) return 1
  const still = seen(0)
  for (let fold = LIKE_SPOKES; fold > 1; fold--) {
    const turned = seen(360 / fold)
    if (turned.length === still.length && turned.every((each, i) => each === still[i])) return fold
  }
  return 1
}

/** Whether anything moves in layers, or in the loops that they place. */
export const isStill = (layers: readonly Layer[]): boolean =>
  placedLoops(layers).length === 0 &&
  layers.every(
    ({ motions, trembles, events, layers: held = [] }) =>
      [motions, trembles ?? {}, events ?? {}].every((each) => Object.keys(each).length === 0) && isStill(held),
  )

const folds = new WeakMap<readonly Layer[], Map<string, number>>()

/** How many turns of a group about its pivot look alike; 1 where anything in it moves. */
export function groupFold({ kind, layers = [] }: Layer, values: Values): number {
  const { pivotX, pivotY, scaleX, scaleY, shadowColour } = values
  if (scaleX !== scaleY || shadowColour !== null || !isStill(layers)) return 1
  const known = folds.get(layers) ?? new Map<string, number>()
  folds.set(layers, known)
  const cut = layerKind(kind).mask?.cuts(values) ?? false
  const key = `${pivotX} ${pivotY} ${cut}`
  const found = known.get(key)
  if (found !== undefined) return found
  const still = { width: 1, height: 1, background: null, length: 1, loops: [], palette: [], blur: NO_BLUR, layers }
  const { nodes } = evaluateUnreduced(still as unknown as Loop, 0)
  const fold = cut ? 1 : foldOfNodes(nodes, { x: Number(pivotX), y: Number(pivotY) })
  known.set(key, fold)
  return fold
}
