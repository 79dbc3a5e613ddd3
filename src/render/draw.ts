import { toHex } from '@/core/colour'
import { type BlendMode, type DisplayList, type DisplayNode, type Filter, nodeType } from '@/core/display'
import { compose, type Matrix, scaleOf } from '@/core/path'
import { type Brush, type Context, type MakeSurface, NO_PICTURES, type Pictures } from './painters/painter'
import { painterOf } from './painters/table'

const COMPOSITE: Partial<Record<BlendMode, GlobalCompositeOperation>> = {
  normal: 'source-over',
  'plus-lighter': 'lighter',
}

/** Draws display lists on 2D canvases of one size, keeping the surfaces that isolated groups need. */
export class Painter implements Brush {
  private readonly spare: Context[] = []
  pictures: Pictures = NO_PICTURES

  constructor(
    private readonly width: number,
    private readonly height: number,
    readonly makeSurface: MakeSurface,
  ) {}

  /** Draws a frame over the whole of a context of this painter's size, scaled to fit it. */
  drawList(context: Context, list: DisplayList, pictures: Pictures = NO_PICTURES): void {
    this.pictures = pictures
    reset(context)
    context.clearRect(0, 0, this.width, this.height)
    if (list.background) {
      context.fillStyle = toHex(list.background)
      context.fillRect(0, 0, this.width, this.height)
    }
    const fit: Matrix = [this.width / list.width, 0, 0, this.height / list.height, 0, 0]
    for (const node of list.nodes) this.draw(context, node, fit)
  }

  draw(context: Context, node: DisplayNode, outer: Matrix): void {
    if (node.opacity <= 0) return
    const transform = compose(outer, node.transform)
    const operation = COMPOSITE[node.blend] ?? (node.blend as GlobalCompositeOperation)
    if (needsSurface(node)) {
      const surface = this.takeSurface(context)
      painterOf(node).paint(this, surface, node, transform)
      context.setTransform(1, 0, 0, 1, 0, 0)
      context.globalAlpha = node.opacity
      context.globalCompositeOperation = operation
      if (node.filters) context.filter = filterText(node.filters, transform)
      context.drawImage(surface.canvas, 0, 0)
      if (node.filters) context.filter = 'none'
      this.giveBack(surface)
    } else {
      context.globalAlpha = node.opacity
      context.globalCompositeOperation = operation
      painterOf(node).paint(this, context, node, transform)
    }
    context.globalAlpha = 1
    context.globalCompositeOperation = 'source-over'
  }

  giveBack(surface: Context): void {
    const { width, height } = surface.canvas
    // Those of tiles are of other sizes, and seldom needed again.
    if (width === this.width && height === this.height) this.spare.push(surface)
  }

  takeSurface({ canvas: { width, height } }: Context): Context {
    const frame = width === this.width && height === this.height
    const spare = frame ? this.spare.pop() : undefined
    if (!spare) return this.makeSurface(width, height)
    reset(spare)
    spare.clearRect(0, 0, width, height)
    return spare
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
  const parts = nodeType(node).parts(node)
  if (node.filters || parts === Number.POSITIVE_INFINITY) return true
  return parts > 1 && (node.opacity < 1 || node.blend !== 'normal')
}

const number = (x: number) => Number(x.toFixed(4))

/** Filters as CSS writes them, for a canvas that knows lengths only in its own pixels: scaled and turned as the drawing is. */
function filterText(filters: readonly Filter[], transform: Matrix): string {
  const [a, b, c, d] = transform
  const scale = scaleOf(transform)
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
