import { median } from '../statistics'
import type { Picture } from './picture'

/** How a sprite sheet is cut: equal cells, read row by row, the first `count` of them. */
export interface Grid {
  readonly columns: number
  readonly rows: number
  readonly count: number
}

/** Cells across or down that are looked for at most. */
const MOST = 64
/** Pixels along and across that are compared at most. */
const SAMPLES = 160
/** A grid is believed where a cell differs from the next by less than this share of what unrelated places differ by. */
const ALIKE = 0.6
/** Of two distances at which the picture is about as like itself, the shorter one is the cell. */
const AS_LIKE = 1.3
/** Unrelated distances, as shares of the side: no simple fractions of it. */
const UNRELATED = [0.0781, 0.1379, 0.2113, 0.2903, 0.3571, 0.4231]

type Axis = 'x' | 'y'

/** Mean difference of a picture from itself moved by so many px along an axis, over what lies in both. */
function selfDifference({ width, height, data }: Picture, axis: Axis, by: number): number {
  const [along, across] = axis === 'x' ? [width, height] : [height, width]
  const [stepAlong, stepAcross] = [Math.max(1, (along - by) / SAMPLES), Math.max(1, across / SAMPLES)]
  let [sum, count] = [0, 0]
  for (let a = 0; a < along - by; a += stepAlong)
    for (let b = 0; b < across; b += stepAcross) {
      const [i, j] = [Math.floor(a), Math.floor(b)]
      const from = 4 * (axis === 'x' ? j * width + i : i * width + j)
      const to = 4 * (axis === 'x' ? j * width + i + by : (i + by) * width + j)
      for (let c = 0; c < 4; c++) sum += Math.abs((data[from + c] as number) - (data[to + c] as number))
      count++
    }
  return sum / count
}

/** So many cells along an axis, and how like they are; 1 where none are found. */
function cellsAlong(picture: Picture, axis: Axis): { cells: number; likeness: number } {
  const side = axis === 'x' ? picture.width : picture.height
  const unrelated = median(UNRELATED.map((share) => selfDifference(picture, axis, Math.round(share * side))))
  if (unrelated === 0) return { cells: 1, likeness: 1 }
  const candidates = Array.from({ length: MOST - 1 }, (_, i) => i + 2)
    .filter((cells) => side % cells === 0 && side / cells >= 4)
    .map((cells) => ({ cells, likeness: selfDifference(picture, axis, side / cells) / unrelated }))
  const best = Math.min(1, ...candidates.map(({ likeness }) => likeness))
  const found = candidates.filter(({ likeness }) => likeness <= AS_LIKE * best && likeness < ALIKE)
  return found.at(-1) ?? { cells: 1, likeness: 1 }
}

/**
 * The grid of a sprite sheet, from the picture alone: neighbouring frames of an animation resemble each other, so the
 * sheet resembles itself moved by one cell. With D(p) = mean |I(x) − I(x + p)| and U the median of D at distances that no
 * grid has, the cell is the shortest divisor p of the side with D(p) ≤ 1.3 · min D and D(p) < 0.6 · U. Cells at the end
 * that hold one colour alone are not counted. null where the picture is no sheet.
 */
export function findGrid(picture: Picture): Grid | null {
  const [columns, rows] = [cellsAlong(picture, 'x').cells, cellsAlong(picture, 'y').cells]
  if (columns * rows < 2) return null
  let count = columns * rows
  while (count > 1 && isPlain(picture, cellAt(picture, { columns, rows, count }, count - 1))) count--
  return count > 1 ? { columns, rows, count } : null
}

/** Where cell n of a sheet lies, px. */
export function cellAt({ width, height }: Pick<Picture, 'width' | 'height'>, { columns, rows }: Grid, n: number) {
  const [w, h] = [Math.floor(width / columns), Math.floor(height / rows)]
  return { x: (n % columns) * w, y: Math.floor(n / columns) * h, width: w, height: h }
}

function isPlain({ width, data }: Picture, cell: ReturnType<typeof cellAt>): boolean {
  const start = 4 * (cell.y * width + cell.x)
  for (let y = cell.y; y < cell.y + cell.height; y++)
    for (let x = cell.x; x < cell.x + cell.width; x++) {
      const i = 4 * (y * width + x)
      for (let c = 0; c < 4; c++) if (data[i + c] !== data[start + c]) return false
    }
  return true
}
