import { type Box, type Matrix, type Path, pathBox, transformPath } from '../../path'
import type { NodeType, ShapeNode } from '../node'

const NO_PATH: Path = []

/** The points that an outline passes, to a twentieth of a px, in one and the same order wherever it begins. */
const pointsOf = (path: Path, matrix: Matrix): string =>
  transformPath(path, matrix)
    .flatMap(([letter, ...numbers]) =>
      letter === 'Z'
        ? []
        : [
            numbers
              .slice(-2)
              .map((x) => Math.round(x * 20))
              .join(),
          ],
    )
    .filter((point, i, all) => all.indexOf(point) === i)
    .sort()
    .join(' ')

/** The box of a placed outline with its stroke, mitred corners included. */
function boxOf(path: Path, width: number, [a, b, c, d]: Matrix): Box | null {
  const box = pathBox(path)
  if (!box) return null
  const reach = 2 * width * Math.max(Math.hypot(a, b), Math.hypot(c, d)) + 1
  return { x: box.x - reach, y: box.y - reach, width: box.width + 2 * reach, height: box.height + 2 * reach }
}

export const shapeType: NodeType<ShapeNode> = {
  type: 'shape',
  parts: ({ fill, stroke }) => Number(fill !== null) + Number(stroke !== null),
  look: ({ fill, stroke, filters = [] }, matrix) => {
    const [filled, stroked] = [fill, stroke].map((each) => (each ? transformPath(each.path, matrix) : []))
    const { path: _outline, ...paint } = fill ?? { path: [] }
    const { path: _line, ...line } = stroke ?? { path: [] }
    // A turned or scaled pattern, width or glow looks different even where its outline does not.
    const turned = stroke || filters.length > 0 || (fill && 'gradient' in fill) ? matrix.slice(0, 4) : []
    return [filled, stroked, paint, line, turned]
  },
  box: ({ fill, stroke }, matrix) => {
    const placed = (path: Path) => transformPath(path, matrix)
    return boxOf([...placed(fill?.path ?? NO_PATH), ...placed(stroke?.path ?? NO_PATH)], stroke?.width ?? 0, matrix)
  },
  mark: ({ fill, stroke }, matrix) => [
    ...[fill?.colour, fill?.gradient?.stops, pointsOf(fill?.path ?? NO_PATH, matrix)],
    ...[stroke?.colour, stroke?.width, stroke?.dash, pointsOf(stroke?.path ?? NO_PATH, matrix)],
  ],
  vectors: ['svg', 'lottie'],
}
