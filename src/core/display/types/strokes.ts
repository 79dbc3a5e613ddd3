import { transformPoint } from '../../path'
import type { NodeType, StrokesNode } from '../node'

export const strokesNode: NodeType<StrokesNode> = {
  type: 'strokes',
  parts: () => 1,
  look: ({ strokes, colour }, matrix) => [strokes, colour, matrix],
  box: ({ strokes }, matrix) => {
    const [first] = strokes
    if (!first) return null
    const { x, y } = transformPoint(matrix, { x: first.points[0] as number, y: first.points[1] as number })
    return { x: x - first.size / 2, y: y - first.size / 2, width: first.size, height: first.size }
  },
  mark: ({ strokes, colour }, matrix) => `${JSON.stringify([strokes, colour])} ${matrix.map((x) => x.toFixed(2))}`,
  vectors: [],
}
