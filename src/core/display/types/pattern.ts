import { boxAround, boxCorners, transformPoint } from '../../path'
import type { NodeType, PatternNode } from '../node'

export const patternType: NodeType<PatternNode> = {
  type: 'pattern',
  held: ({ children }) => children,
  cut: ({ box }) => ({ box }),
  parts: () => 1,
  look: ({ box, tile, scale, turn, drift }, matrix) => [box, tile, scale, turn % 360, drift, matrix],
  box: ({ box }, matrix) => boxAround(boxCorners(box).map((corner) => transformPoint(matrix, corner))),
  mark: ({ box, tile, scale, turn, drift }, matrix) =>
    `${JSON.stringify([box, tile, scale, turn % 360, drift])} ${matrix.map((x) => x.toFixed(2))}`,
  vectors: [],
}
