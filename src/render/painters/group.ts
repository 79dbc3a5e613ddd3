import type { GroupNode } from '@/core/display'
import { boxHolds } from '@/core/path'
import type { NodePainter } from './painter'

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
    if (clip) context.restore()
    if (!cut) return
    const surface = brush.takeSurface()
    brush.draw(surface, cut, transform)
    context.setTransform(1, 0, 0, 1, 0, 0)
    context.globalCompositeOperation = mask === 'shape' ? 'destination-in' : 'destination-out'
    context.drawImage(surface.canvas, 0, 0)
    brush.giveBack(surface)
  },
  // A placed loop is picked wherever its frame is.
  hits: ({ clip }, point) => clip && boxHolds(clip, point),
}
