import type { DisplayList, DisplayNode } from '@/core/display'
import {
  type Box,
  compose,
  IDENTITY,
  invert,
  type Matrix,
  type Path,
  type Point,
  svgPathData,
  transformPoint,
} from '@/core/path'

/** A stroke thinner than this, in px of the frame, can still be hit so far from its middle. */
const REACH = 6

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
    const within = (box: Box) =>
      local.x >= box.x && local.y >= box.y && local.x <= box.x + box.width && local.y <= box.y + box.height
    const own = node.layerId ? [node.layerId] : []
    if (node.type === 'picture') {
      if (within(node.box)) return own
      continue
    }
    if (node.type === 'group') {
      // A placed loop is picked wherever its frame is.
      if (node.clip) {
        if (within(node.clip)) return own
        continue
      }
      const inside = hit(node.children, point, matrix, canvas)
      if (inside) return [...inside, ...own]
      continue
    }
    const path = (p: Path) => new Path2D(svgPathData(p))
    if (node.fill && canvas.isPointInPath(path(node.fill.path), local.x, local.y)) return own
    if (node.stroke) {
      canvas.lineWidth = Math.max(node.stroke.width, 2 * REACH)
      if (canvas.isPointInStroke(path(node.stroke.path), local.x, local.y)) return own
    }
  }
  return null
}
