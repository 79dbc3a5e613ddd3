import { toHex } from '@/core/colour'
import type { BlendMode, DisplayList, DisplayNode, Fill, Stroke } from '@/core/loop'
import { compose, type Matrix, type Path } from '@/core/path'

/** The part of a 2D canvas context that drawing needs; browsers, workers and Node canvases all have it. */
export type Context = OffscreenCanvasRenderingContext2D

/** Makes an empty surface of so many pixels. */
export type MakeSurface = (width: number, height: number) => Context

const COMPOSITE: Partial<Record<BlendMode, GlobalCompositeOperation>> = {
  normal: 'source-over',
  'plus-lighter': 'lighter',
}

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

function paintFill(context: Context, { path, colour }: Fill) {
  tracePath(context, path)
  context.fillStyle = toHex(colour)
  context.fill()
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

/** Draws display lists on 2D canvases of one size, keeping the surfaces that isolated groups need. */
export class Painter {
  private readonly spare: Context[] = []

  constructor(
    private readonly width: number,
    private readonly height: number,
    private readonly makeSurface: MakeSurface,
  ) {}

  /** Draws a frame over the whole of a context of this painter's size, scaled to fit it. */
  draw(context: Context, list: DisplayList): void {
    context.setTransform(1, 0, 0, 1, 0, 0)
    context.globalAlpha = 1
    context.globalCompositeOperation = 'source-over'
    context.clearRect(0, 0, this.width, this.height)
    if (list.background) {
      context.fillStyle = toHex(list.background)
      context.fillRect(0, 0, this.width, this.height)
    }
    const fit: Matrix = [this.width / list.width, 0, 0, this.height / list.height, 0, 0]
    for (const node of list.nodes) this.drawNode(context, node, fit)
  }

  private drawNode(context: Context, node: DisplayNode, outer: Matrix) {
    if (node.opacity <= 0) return
    const transform = compose(outer, node.transform)
    const operation = COMPOSITE[node.blend] ?? (node.blend as GlobalCompositeOperation)
    if (needsSurface(node)) {
      const surface = this.takeSurface()
      this.paint(surface, node, transform)
      context.setTransform(1, 0, 0, 1, 0, 0)
      context.globalAlpha = node.opacity
      context.globalCompositeOperation = operation
      context.drawImage(surface.canvas, 0, 0)
      this.spare.push(surface)
    } else {
      context.globalAlpha = node.opacity
      context.globalCompositeOperation = operation
      this.paint(context, node, transform)
    }
    context.globalAlpha = 1
    context.globalCompositeOperation = 'source-over'
  }

  private paint(context: Context, node: DisplayNode, transform: Matrix) {
    if (node.type === 'group') {
      for (const child of node.children) this.drawNode(context, child, transform)
      return
    }
    context.setTransform(...transform)
    if (node.fill) paintFill(context, node.fill)
    if (node.stroke) paintStroke(context, node.stroke)
  }

  private takeSurface(): Context {
    const surface = this.spare.pop() ?? this.makeSurface(this.width, this.height)
    surface.setTransform(1, 0, 0, 1, 0, 0)
    surface.globalAlpha = 1
    surface.globalCompositeOperation = 'source-over'
    surface.clearRect(0, 0, this.width, this.height)
    return surface
  }
}

/** Opacity and blend mode act on the whole of a drawing: one with several parts is painted apart first. */
function needsSurface(node: DisplayNode): boolean {
  const parts = node.type === 'group' ? 2 : Number(node.fill !== null) + Number(node.stroke !== null)
  return parts > 1 && (node.opacity < 1 || node.blend !== 'normal')
}
