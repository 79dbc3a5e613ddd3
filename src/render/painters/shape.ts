import { toHex } from '@/core/colour'
import type { Fill, Gradient, ShapeNode, Stroke } from '@/core/display'
import { type Path, svgPathData } from '@/core/path'
import type { Context, NodePainter } from './painter'

/** A stroke thinner than this is hit within this distance of its middle, px of the frame. */
const REACH = 6

const tracePath = (context: Context, path: Path) => {
  context.beginPath()
  for (const segment of path) {
    switch (segment[0]) {
      case 'M':
        context.moveTo(segment[1], segment[2])
        break
      case 'L':
        context.lineTo(segment[1], segment[2])
        break
      case 'C':
        context.bezierCurveTo(segment[1], segment[2], segment[3], segment[4], segment[5], segment[6])
        break
      case 'Z':
        context.closePath()
    }
  }
}

function paintFill(context: Context, { path, colour, gradient }: Fill) {
  tracePath(context, path)
  context.fillStyle = gradient ? gradientStyle(context, gradient) : toHex(colour)
  context.fill()
}

function gradientStyle(context: Context, { type, from, to, stops }: Gradient) {
  const style =
    type === 'linear'
      ? context.createLinearGradient(from.x, from.y, to.x, to.y)
      : context.createRadialGradient(from.x, from.y, 0, from.x, from.y, Math.hypot(to.x - from.x, to.y - from.y))
  for (const { at, colour } of stops) style.addColorStop(at, toHex(colour))
  return style
}

function paintStroke(context: Context, { path, colour, width, cap, join, dash, dashOffset }: Stroke) {
  tracePath(context, path)
  context.strokeStyle = toHex(colour)
  context.lineWidth = width
  context.lineCap = cap
  context.lineJoin = join
  context.setLineDash(dash as number[])
  context.lineDashOffset = dashOffset
  context.stroke()
}

const outline = (path: Path) => new Path2D(svgPathData(path))

export const shapePainter: NodePainter<ShapeNode> = {
  type: 'shape',
  paint: (_, context, { fill, stroke }, transform) => {
    context.setTransform(...transform)
    if (fill) paintFill(context, fill)
    if (stroke) paintStroke(context, stroke)
  },
  hits: ({ fill, stroke }, { x, y }, context) => {
    if (fill && context.isPointInPath(outline(fill.path), x, y)) return true
    if (!stroke) return false
    context.lineWidth = Math.max(stroke.width, 2 * REACH)
    return context.isPointInStroke(outline(stroke.path), x, y)
  },
}
