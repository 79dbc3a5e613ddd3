import { boxAround, boxCorners, type Matrix, transformPoint } from '../../path'
import type { ModelNode, NodeType, PartNode } from '../node'

const corners = ({ box }: ModelNode, matrix: Matrix) => boxCorners(box).map((corner) => transformPoint(matrix, corner))

/** Angles and places that differ by less than a drawing tells apart. */
const rounded = (values: readonly number[]) => values.map((value) => Number(value.toFixed(6)) + 0)

export const modelType: NodeType<ModelNode> = {
  type: 'model',
  parts: () => 1,
  pictures: ({ look }) => (look.groundPicture === null ? [] : [look.groundPicture]),
  models: ({ model, file, look }) => [{ model, file, occlusion: look.pass === 'occlusion' }],
  look: ({ file, camera, placement, parts, look, ...node }, matrix) => [
    file,
    rounded(placement),
    camera,
    parts,
    look,
    corners(node as ModelNode, matrix),
  ],
  box: (node, matrix) => boxAround(corners(node, matrix)),
  mark: ({ file, camera, placement, parts, look }, matrix) =>
    `${JSON.stringify([file, camera, rounded(placement), parts, look])} ${matrix.map((x) => x.toFixed(2))}`,
  vectors: [],
}

/** A part by itself draws nothing: the model that holds it does. */
export const partType: NodeType<PartNode> = {
  type: 'part',
  parts: () => 0,
  look: () => null,
  box: () => null,
  mark: () => null,
  vectors: ['svg', 'lottie'],
}
