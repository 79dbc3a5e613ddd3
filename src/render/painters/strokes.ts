import { bytesOf } from '@/core/colour'
import type { StrokesNode } from '@/core/display'
import { strokesCover } from '@/core/effects'
import type { Brush, Context, NodePainter } from './painter'

interface Painted {
  readonly key: string
  readonly strokes: readonly unknown[]
  readonly surface: Context
}

/** Strokes last painted are kept for this many layers of a painter: they stay the same from frame to frame. */
const MAX_KEPT_LAYERS = 6
const painted = new WeakMap<object, Painted[]>()

function surfaceOf(
  brush: Brush,
  like: Context,
  { strokes, colour }: StrokesNode,
  transform: readonly number[],
): Context {
  const { width, height } = like.canvas
  const key = `${width} ${height} ${colour} ${transform}`
  const known = painted.get(brush) ?? []
  const found = known.find((each) => each.strokes === strokes && each.key === key)
  if (found) return found.surface
  const surface = brush.makeSurface(width, height)
  const [red, green, blue, alpha] = bytesOf(colour)
  const image = surface.createImageData(width, height)
  const cover = strokesCover(strokes, width, height, transform as never)
  for (let i = 0; i < cover.length; i++) {
    image.data[4 * i] = red
    image.data[4 * i + 1] = green
    image.data[4 * i + 2] = blue
    image.data[4 * i + 3] = (cover[i] * alpha) / 255
  }
  surface.putImageData(image, 0, 0)
  painted.set(brush, [{ key, strokes, surface }, ...known].slice(0, MAX_KEPT_LAYERS))
  return surface
}

export const strokesPainter: NodePainter<StrokesNode> = {
  type: 'strokes',
  paint: (brush, context, node, transform) => {
    context.setTransform(1, 0, 0, 1, 0, 0)
    // Until something is painted, all is.
    if (node.strokes.length === 0) {
      context.fillStyle = node.colour
      context.fillRect(0, 0, context.canvas.width, context.canvas.height)
    } else context.drawImage(surfaceOf(brush, context, node, transform).canvas, 0, 0)
  },
  hits: ({ strokes }, point) =>
    strokes.some(({ size, points }) => {
      for (let n = 0; n < points.length; n += 3)
        if (Math.hypot(points[n] - point.x, points[n + 1] - point.y) < size / 2) return true
      return false
    }),
}
