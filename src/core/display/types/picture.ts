import { type Box, boxAround, boxCorners, type Matrix, transformPoint } from '../../path'
import type { NodeType, PictureNode } from '../node'

const cornersOf = (box: Box, matrix: Matrix) => boxCorners(box).map((corner) => transformPoint(matrix, corner))

export const pictureType: NodeType<PictureNode> = {
  type: 'picture',
  parts: () => 1,
  pictures: ({ id }) => [id],
  look: ({ id, box }, matrix) => [id, cornersOf(box, matrix)],
  box: ({ box }, matrix) => boxAround(cornersOf(box, matrix)),
  mark: ({ id }, matrix) => `${id} ${matrix.map((x) => x.toFixed(2))}`,
  vectors: ['svg', 'lottie'],
}
