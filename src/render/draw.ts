import { toHex } from '@/core/colour'
import type { BlendMode, DisplayList, DisplayNode, Fill, Filter, Gradient, Stroke } from '@/core/display'
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

/** Still pictures by their ids, ready to be drawn. */
export type Pictures = ReadonlyMap<string, CanvasImageSource>
const NO_PICTURES: Pictures = new Map()

/** Draws display lists on 2D canvases of one size, keeping the surfaces that isolated groups need. */
export class Painter {
  private readonly spare: Context[] = []
  private pictures: Pictures = NO_PICTURES

  constructor(
    private readonly width: number,
    private readonly height: number,
    private readonly makeSurface: MakeSurface,
  ) {}

  /** Draws a frame over the whole of a context of this painter's size, scaled to fit it. */
  draw(context: Context, list: DisplayList, pictures: Pictures = NO_PICTURES): void {
    this.pictures = pictures
    reset(context)
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
      if (node.filters) context.filter = filterText(node.filters, transform)
      context.drawImage(surface.canvas, 0, 0)
      if (node.filters) context.filter = 'none'
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
    if (node.type === 'group') return this.paintGroup(context, node, transform)
    context.setTransform(...transform)
    if (node.type === 'picture') {
      const picture = this.pictures.get(node.id)
      const { x, y, width, height } = node.box
      if (picture) context.drawImage(picture, x, y, width, height)
      return
    }
    if (node.fill) paintFill(context, node.fill)
    if (node.stroke) paintStroke(context, node.stroke)
  }

  private paintGroup(context: Context, node: Extract<DisplayNode, { type: 'group' }>, transform: Matrix) {
    const { children, mask = 'none', clip } = node
    const cut = mask === 'none' ? undefined : children.at(-1)
    if (clip) {
      context.save()
      context.setTransform(...transform)
      context.beginPath()
      context.rect(clip.x, clip.y, clip.width, clip.height)
      context.clip()
    }
    for (const child of cut ? children.slice(0, -1) : children) this.drawNode(context, child, transform)
    if (clip) context.restore()
    if (!cut) return
    const surface = this.takeSurface()
    this.drawNode(surface, cut, transform)
    context.setTransform(1, 0, 0, 1, 0, 0)
    context.globalCompositeOperation = mask === 'shape' ? 'destination-in' : 'destination-out'
    context.drawImage(surface.canvas, 0, 0)
    this.spare.push(surface)
  }

  private takeSurface(): Context {
    const surface = this.spare.pop() ?? this.makeSurface(this.width, this.height)
    reset(surface)
    surface.clearRect(0, 0, this.width, this.height)
    return surface
  }
}

function reset(context: Context) {
  context.setTransform(1, 0, 0, 1, 0, 0)
  context.globalAlpha = 1
  context.globalCompositeOperation = 'source-over'
  context.filter = 'none'
}

/** Opacity, blend mode, filters and masks act on the whole of a drawing: one that needs it is painted apart first. */
function needsSurface(node: DisplayNode): boolean {
  if (node.filters || (node.type === 'group' && (node.mask ?? 'none') !== 'none')) return true
  const parts =
    node.type === 'group' ? 2 : node.type === 'picture' ? 1 : Number(node.fill !== null) + Number(node.stroke !== null)
  return parts > 1 && (node.opacity < 1 || node.blend !== 'normal')
}

const number = (x: number) => Number(x.toFixed(4))

/** Filters as CSS writes them, for a canvas that knows lengths only in its own pixels: scaled and turned as the drawing is. */
function filterText(filters: readonly Filter[], [a, b, c, d]: Matrix): string {
  const scale = Math.sqrt(Math.abs(a * d - b * c))
  return filters
    .map((filter) => {
      switch (filter.name) {
        case 'blur':
          return `blur(${number(filter.radius * scale)}px)`
        case 'drop-shadow': {
          const { x, y, blur, colour } = filter
          return `drop-shadow(${number(a * x + c * y)}px ${number(b * x + d * y)}px ${number(blur * scale)}px ${toHex(colour)})`
        }
        case 'hue-rotate':
          return `hue-rotate(${number(filter.degrees)}deg)`
        default:
          return `${filter.name}(${number(filter.amount)})`
      }
    })
    .join(' ')
}
