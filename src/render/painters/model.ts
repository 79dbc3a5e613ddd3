import type { ModelNode, PartNode } from '@/core/display'
import { boxHolds } from '@/core/path'
import { modelAtHand } from '../models/at-hand'
import type { NodePainter } from './painter'
import { tilePixels } from './tile'

export const modelPainter: NodePainter<ModelNode> = {
  type: 'model',
  paint: ({ pictures }, context, node, transform) => {
    const { file, box } = node
    const model = modelAtHand(file)
    if (!model || box.width <= 0 || box.height <= 0) return
    const { width, height } = tilePixels(box.width, box.height, transform)
    const ground = pictures.get(node.look.groundPicture ?? '') as ImageBitmap | undefined
    const picture = model.draw(node, width, height, ground)
    context.setTransform(...transform)
    context.drawImage(picture, box.x, box.y, box.width, box.height)
  },
  hits: ({ box }, point) => boxHolds(box, point),
}

/** A part by itself draws nothing. */
export const partPainter: NodePainter<PartNode> = {
  type: 'part',
  paint: () => {},
  hits: () => false,
}
