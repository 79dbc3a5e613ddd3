import { boxAround, boxCorners, type Matrix, transformPoint } from '../../path'
import type { NodeType, TextureNode } from '../node'

const corners = ({ box }: TextureNode, matrix: Matrix) =>
  boxCorners(box).map((corner) => transformPoint(matrix, corner))

export const textureType: NodeType<TextureNode> = {
  type: 'texture',
  parts: () => 1,
  look: (node, matrix) => [node.spec, node.drift, node.turn % 360, corners(node, matrix)],
  box: (node, matrix) => boxAround(corners(node, matrix)),
  mark: ({ spec, drift, turn }, matrix) =>
    `${JSON.stringify([spec, drift, turn % 360])} ${matrix.map((x) => x.toFixed(2))}`,
  vectors: [],
}
