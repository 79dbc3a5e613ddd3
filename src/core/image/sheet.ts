import type { Picture } from './picture'

/** How a sprite sheet is cut: equal cells, read row by row, the first `count` of them. */
export interface SheetGrid {
  readonly columns: number
  readonly rows: number
  readonly count: number
}

/** Cells across or down that are looked for at most, and their least side, px. */
const MAX_CELLS_ACROSS = 64
const MIN_CELL_PX = 8
/** Cells with a longer side over this multiple of the shorter one are a pattern, not frames. */
const FLATTEST = 6
/** Pixels across and down a cell that are compared at most. */
const SAMPLES = 48
/** A grid is believed where a frame differs from the next by less than this share of what it differs by from beside it. */
const ALIKE = 0.5
/** Of grids that fit about as well, that of the most cells is it. */
const AS_ALIKE = 1.4

/** Where cell n of a sheet lies, px. */
export function cellAt({ width, height }: Pick<Picture, 'width' | 'height'>, { columns, rows }: SheetGrid, n: number) {
  const w = Math.floor(width / columns)
  const h = Math.floor(height / rows)
  return { x: (n % columns) * w, y: Math.floor(n / columns) * h, width: w, height: h }
}

type Cell = ReturnType<typeof cellAt>

/** Mean difference of one cell from another one moved by (dx, dy) px. */
function differs({ width, height, data }: Picture, a: Cell, b: Cell, dx: number, dy: number): number {
  const across = Math.max(1, a.width / SAMPLES)
  const down = Math.max(1, a.height / SAMPLES)
  let sum = 0
  let count = 0
  for (let y = 0; y < a.height; y += down)
    for (let x = 0; x < a.width; x += across) {
      const px = Math.floor(x)
      const py = Math.floor(y)
      const from = 4 * ((a.y + py) * width + a.x + px)
      const to = 4 * (((b.y + py + dy) % height) * width + ((b.x + px + dx) % width))
      for (let c = 0; c < 4; c++) sum += Math.abs(data[from + c] - data[to + c])
      count++
    }
  return sum / count
}

const divisors = (side: number): number[] =>
  Array.from({ length: MAX_CELLS_ACROSS - 1 }, (_, i) => i + 2).filter((n) => side % n === 0 && side / n >= MIN_CELL_PX)

/** The most parts of those into which a side can be cut so that each leads to the next; 1 where there are none. */
function partsOf(side: number, likeness: (parts: number) => number): number {
  const fits = divisors(side).map((parts) => ({ parts, likeness: likeness(parts) }))
  const best = Math.min(...fits.map((each) => each.likeness))
  return fits.filter((each) => each.likeness < ALIKE && each.likeness <= AS_ALIKE * best).at(-1)?.parts ?? 1
}

/**
 * The grid of a sprite sheet, from the picture alone: a frame of an animation resembles the next one where that lies, and
 * not half a cell beside it. Columns: each column of the picture against the next one; rows: the last cell of each row against
 * the first of the next, which is the frame that follows it. With D(0) the mean difference of those pairs and D(½) that with
 * the second moved by half a cell, a side is cut into the most parts among those with r = ΣD(0) ÷ ΣD(½) < 0.5 and
 * r ≤ 1.4 · min r. Cells at the end that hold one colour alone are not counted. null where the picture is no sheet.
 */
export function findGrid(picture: Picture): SheetGrid | null {
  const { width, height } = picture
  const ratio = (pairs: readonly (readonly [Cell, Cell])[], dx: number, dy: number) => {
    const sum = (x: number, y: number) => pairs.reduce((total, [a, b]) => total + differs(picture, a, b, x, y), 0)
    const beside = sum(dx, dy)
    return beside > 0 ? sum(0, 0) / beside : 1
  }
  const columns = partsOf(width, (parts) => {
    const grid = { columns: parts, rows: 1, count: parts }
    const cells = Array.from({ length: parts }, (_, n) => cellAt(picture, grid, n))
    return ratio(pairsOf(cells), Math.floor(width / parts / 2), 0)
  })
  const rows = partsOf(height, (parts) => {
    const grid = { columns, rows: parts, count: columns * parts }
    const turns = Array.from(
      { length: parts - 1 },
      (_, row) => [cellAt(picture, grid, (row + 1) * columns - 1), cellAt(picture, grid, (row + 1) * columns)] as const,
    )
    return ratio(turns, 0, Math.floor(height / parts / 2))
  })
  const aspect = width / columns / (height / rows)
  if (columns * rows < 2 || Math.max(aspect, 1 / aspect) > FLATTEST) return null
  let count = columns * rows
  while (count > 1 && isPlain(picture, cellAt(picture, { columns, rows, count }, count - 1))) count--
  return count > 1 ? { columns, rows, count } : null
}

const pairsOf = (cells: readonly Cell[]): (readonly [Cell, Cell])[] =>
  cells.slice(1).map((cell, n) => [cells[n], cell] as const)

function isPlain({ width, data }: Picture, cell: Cell): boolean {
  const start = 4 * (cell.y * width + cell.x)
  for (let y = cell.y; y < cell.y + cell.height; y++)
    for (let x = cell.x; x < cell.x + cell.width; x++) {
      const i = 4 * (y * width + x)
      for (let c = 0; c < 4; c++) if (data[i + c] !== data[start + c]) return false
    }
  return true
}
