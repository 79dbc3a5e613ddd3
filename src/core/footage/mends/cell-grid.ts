/** Each coarser level has this many times fewer cells per side. */
export const LEVEL_RATIO = 4
/** A cell's mean and variance are taken from at most this many pixels per side. */
const SAMPLES_PER_SIDE = 16

/** Red, green and blue of pixels, 0 … 255 but not rounded, and not multiplied by alpha. Where alpha is 0 there is no colour. */
export interface PixelValues {
  readonly width: number
  readonly height: number
  readonly values: Float32Array
  readonly alpha: Float32Array
}

/** Cells of a picture, and blocks of cells, the next coarser level. */
export interface CellGrid {
  readonly across: number
  readonly down: number
  readonly columns: Between
  readonly rows: Between
  readonly blockColumns: Between
  readonly blockRows: Between
  /** Distance of sampled pixels, each way. */
  readonly every: number
  /** Sampled pixels with a colour, of each cell. */
  readonly counts: Float32Array
}

/** The grid of a picture, with at most `most` cells along its width. */
export function cellGridOf({ width, height, alpha }: PixelValues, most: number): CellGrid {
  const across = Math.min(most, width)
  const down = Math.max(1, Math.min(height, Math.round((across * height) / width)))
  const columns = cellsOver(width, across)
  const rows = cellsOver(height, down)
  const counts = new Float32Array(across * down)
  const every = Math.max(1, Math.floor(width / across / SAMPLES_PER_SIDE))
  for (let y = 0; y < height; y += every)
    for (let x = 0; x < width; x += every) {
      const cell = rows.own[y] * across + columns.own[x]
      if (alpha[y * width + x] > 0) counts[cell] += 1
    }
  const blockColumns = cellsOver(across, Math.ceil(across / LEVEL_RATIO))
  const blockRows = cellsOver(down, Math.ceil(down / LEVEL_RATIO))
  return { across, down, columns, rows, blockColumns, blockRows, every, counts }
}

/** The block in which a cell lies. */
export const blockOf = ({ across, blockColumns, blockRows }: CellGrid, cell: number): number =>
  blockRows.own[Math.floor(cell / across)] * blockColumns.cells + blockColumns.own[cell % across]

/** Values of cells interpolated at a pixel, from the four cells around it. */
export class CellBlend {
  private readonly corners = new Int32Array(4)
  private readonly weights = new Float32Array(4)
  constructor(private readonly grid: CellGrid) {}

  /** Moves to a pixel. @returns the sum of the weights around it; cells without any colour weigh nothing */
  moveTo(x: number, y: number): number {
    const { corners, weights } = this
    const { across, columns, rows, counts } = this.grid
    const fx = columns.share[x]
    const fy = rows.share[y]
    const top = rows.first[y] * across
    const bottom = rows.second[y] * across
    corners[0] = top + columns.first[x]
    corners[1] = top + columns.second[x]
    corners[2] = bottom + columns.first[x]
    corners[3] = bottom + columns.second[x]
    weights[0] = (1 - fx) * (1 - fy)
    weights[1] = fx * (1 - fy)
    weights[2] = (1 - fx) * fy
    weights[3] = fx * fy
    let seen = 0
    for (let k = 0; k < 4; k++) {
      if (counts[corners[k]] <= 0) weights[k] = 0
      seen += weights[k]
    }
    return seen
  }

  /** Weighted sum of component c of values with `each` components per cell. */
  sum(of: Float32Array, each: number, c: number): number {
    const { corners, weights } = this
    return (
      weights[0] * of[each * corners[0] + c] +
      weights[1] * of[each * corners[1] + c] +
      weights[2] * of[each * corners[2] + c] +
      weights[3] * of[each * corners[3] + c]
    )
  }
}

type Between = ReturnType<typeof cellsOver>

/**
 * For each pixel along a side: its cell, the two cells between whose centres it lies, and how far it is on the way to
 * the second.
 */
function cellsOver(size: number, cells: number) {
  const own = new Uint16Array(size)
  const first = new Uint16Array(size)
  const second = new Uint16Array(size)
  const share = new Float32Array(size)
  for (let n = 0; n < size; n++) {
    own[n] = Math.floor((n * cells) / size)
    const at = Math.max(0, Math.min(cells - 1, ((n + 0.5) * cells) / size - 0.5))
    first[n] = Math.floor(at)
    second[n] = Math.min(cells - 1, Math.floor(at) + 1)
    share[n] = at - Math.floor(at)
  }
  return { cells, own, first, second, share }
}
