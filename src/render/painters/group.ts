import type { GroupNode } from '@/core/display'
import { lumaAt } from '@/core/effects'
import { type Box, boxHolds, type Matrix, scaleOf } from '@/core/path'
import type { Context, NodePainter } from './painter'

/** Leaves what lies within a box. */
function cutTo(context: Context, { x, y, width, height }: Box, transform: Matrix): void {
  context.save()
  context.globalCompositeOperation = 'destination-in'
  context.setTransform(...transform)
  context.beginPath()
  context.rect(x, y, width, height)
  context.globalAlpha = 1
  context.fillStyle = '#000'
  context.fill()
  context.restore()
}

/** Makes pixels as opaque as they are bright. */
function brightnessToAlpha(surface: Context): void {
  const { width, height } = surface.canvas
  const image = surface.getImageData(0, 0, width, height)
  const { data } = image
  for (let i = 0; i < data.length; i += 4) data[i + 3] = (lumaAt(data, i) * data[i + 3]) / 255
  surface.putImageData(image, 0, 0)
}

/** Fills the clear part of a surface with `alpha` of a colour. */
function fillBehind(surface: Context, alpha: number): void {
  surface.setTransform(1, 0, 0, 1, 0, 0)
  surface.globalCompositeOperation = 'destination-over'
  surface.globalAlpha = alpha
  surface.fillStyle = '#fff'
  surface.fillRect(0, 0, surface.canvas.width, surface.canvas.height)
  surface.globalAlpha = 1
  surface.globalCompositeOperation = 'source-over'
}

export const groupPainter: NodePainter<GroupNode> = {
  type: 'group',
  paint: (brush, context, { children, mask = 'none', feather = 0, density = 1, clip }, transform) => {
    const cut = mask === 'none' ? undefined : children.at(-1)
    if (clip) {
      context.save()
      context.setTransform(...transform)
      context.beginPath()
      context.rect(clip.x, clip.y, clip.width, clip.height)
      context.clip()
    }
    for (const child of cut ? children.slice(0, -1) : children) brush.draw(context, child, transform)
    if (clip) {
      context.restore()
      // Effects do not keep within it by themselves.
      if (children.some(({ changesBehind }) => changesBehind)) cutTo(context, clip, transform)
    }
    if (!cut) return
    const surface = brush.takeSurface(context)
    brush.draw(surface, cut, transform)
    if (mask === 'brightness' || mask === 'darkness') brightnessToAlpha(surface)
    const keeps = mask === 'shape' || mask === 'brightness'
    context.setTransform(1, 0, 0, 1, 0, 0)
    context.globalCompositeOperation = keeps ? 'destination-in' : 'destination-out'
    // A mask of partial density hides only that share: the rest stays wherever the mask is.
    if (keeps && density < 1) fillBehind(surface, 1 - density)
    context.globalAlpha = keeps ? 1 : density
    if (feather > 0) context.filter = `blur(${(feather * scaleOf(transform)).toFixed(3)}px)`
    context.drawImage(surface.canvas, 0, 0)
    context.filter = 'none'
    context.globalAlpha = 1
    brush.giveBack(surface)
  },
  // A placed loop is picked wherever its frame is.
  hits: ({ clip }, point) => clip && boxHolds(clip, point),
}
