import type { PictureNode } from '@/core/display'
import { boxHolds } from '@/core/path'
import type { NodePainter } from './painter'

export const picturePainter: NodePainter<PictureNode> = {
  type: 'picture',
  paint: ({ pictures }, context, { id, box }, transform) => {
    const picture = pictures.get(id)
    if (!picture) return
    context.setTransform(...transform)
    context.drawImage(picture, box.x, box.y, box.width, box.height)
  },
  hits: ({ box }, point) => boxHolds(box, point),
}
