import { type DisplayList, type DisplayNode, heldIn } from '@/core/display'
import { compose, IDENTITY, invert, type Matrix, type Point, transformPoint } from '@/core/path'
import { painterOf } from './painters/table'

let context: OffscreenCanvasRenderingContext2D | null = null

/**
 * The ids of the layers at a point of the frame, from the frontmost inwards to the groups around it: the first is
 * the shape, the last the outermost group. Empty where there is nothing.
 */
export function layersAt(list: DisplayList, point: Point): string[] {
  context ??= new OffscreenCanvas(1, 1).getContext('2d')
  return context ? (hit(list.nodes, point, IDENTITY, context) ?? []) : []
}

function hit(
  nodes: readonly DisplayNode[],
  point: Point,
  outer: Matrix,
  canvas: OffscreenCanvasRenderingContext2D,
): string[] | null {
  for (const node of [...nodes].reverse()) {
    const matrix = compose(outer, node.transform)
    const back = invert(matrix)
    if (!back) continue
    const local = transformPoint(back, point)
    const own = node.layerId ? [node.layerId] : []
    const hits = painterOf(node).hits(node, local, canvas)
    if (hits) return own
    const inside = hits === undefined ? hit(heldIn(node), point, matrix, canvas) : null
    if (inside) return [...inside, ...own]
  }
  return null
}
