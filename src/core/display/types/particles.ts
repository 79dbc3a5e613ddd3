import { boxAround, boxCorners, transformPoint } from '../../path'
import type { NodeType, ParticlesNode } from '../node'

export const particlesType: NodeType<ParticlesNode> = {
  type: 'particles',
  held: ({ sprite }) => sprite,
  // Many things over each other, which fade and blend as one.
  parts: () => 2,
  look: ({ spec, time, shape, box, sprite: _held, ...paint }, matrix) => [spec, time, shape, box, paint, matrix],
  box: ({ box }, matrix) => boxAround(boxCorners(box).map((corner) => transformPoint(matrix, corner))),
  mark: ({ spec, time, shape, box }, matrix) =>
    `${JSON.stringify([spec, time, shape, box])} ${matrix.map((x) => x.toFixed(2))}`,
  vectors: [],
}
