import type { GroupNode } from '@/core/display'
import { type Box, boxHolds, type Matrix } from '@/core/path'
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

export const groupPainter: NodePainter<GroupNode> = {
  type: 'group',
  paint: (brush, context, { children, mask = 'none', clip }, transform) => {
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
    context.setTransform(1, 0, 0, 1, 0, 0)
    context.globalCompositeOperation = mask === 'shape' ? 'destination-in' : 'destination-out'
    context.drawImage(surface.canvas, 0, 0)
    brush.giveBack(surface)
  },
  // A placed loop is picked wherever its frame is.
  hits: ({ clip }, point) => clip && boxHolds(clip, point),
}
