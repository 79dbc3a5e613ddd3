import { CHANNELS, type Plane } from './descriptor'

/** Side of a block, in pixels of the frames as they are judged. */
const BLOCK = 8
/** Blocks are matched at most this far away, px: what moves by less between two frames does not leap. */
const REACH = 5
/** The residual of a pair of frames is the mean of this many worst blocks. */
export const WORST_BLOCKS = 2
/** Shifts within reach, the nearest first: uniform blocks then stay where they are. */
const SHIFTS: readonly (readonly [dx: number, dy: number])[] = Array.from({ length: (2 * REACH + 1) ** 2 }, (_, i) => {
  const side = 2 * REACH + 1
  return [(i % side) - REACH, Math.floor(i / side) - REACH] as const
}).sort(([ax, ay], [bx, by]) => ax * ax + ay * ay - bx * bx - by * by)
type Shift = (typeof SHIFTS)[number]
const NO_SHIFT = SHIFTS[0]

/** How a plane is divided into blocks; those at its far edges take what is left over. */
export interface BlockGrid {
  readonly across: number
  readonly down: number
}
export const gridOf = ({ width, height }: Plane): BlockGrid => ({
  across: Math.floor(width / BLOCK),
  down: Math.floor(height / BLOCK),
})

/** A block: its first pixel and its size, px. */
export interface Block {
  readonly x: number
  readonly y: number
  readonly w: number
  readonly h: number
}
export function blockAt({ width, height }: Plane, { across, down }: BlockGrid, index: number): Block {
  const column = index % across
  const row = Math.floor(index / across)
  const x = column * BLOCK
  const y = row * BLOCK
  return { x, y, w: column === across - 1 ? width - x : BLOCK, h: row === down - 1 ? height - y : BLOCK }
}
const isAtEdge = ({ across, down }: BlockGrid, index: number): boolean => {
  const column = index % across
  const row = Math.floor(index / across)
  return column === 0 || row === 0 || column === across - 1 || row === down - 1
}

/**
 * A plane with the range of values that lie within half a pixel of each of its pixels: least and greatest of the pixel and of the values
 * half-way to its eight neighbours, so that a shift by a part of a pixel leaves nothing (Birchfield & Tomasi 1998). Both have the plane's
 * layout, and are known around the blocks that were asked for.
 */
export class Ranged {
  readonly least: Float32Array
  readonly most: Float32Array
  private readonly known: Uint8Array
  /** Least and greatest of three pixels in a row: those of a block, and the rows above and below it. */
  private readonly low: Float32Array
  private readonly high: Float32Array

  constructor(
    readonly plane: Plane,
    private readonly grid: BlockGrid,
  ) {
    this.least = new Float32Array(plane.values.length)
    this.most = new Float32Array(plane.values.length)
    this.known = new Uint8Array(grid.across * grid.down)
    // A block at the far edge is less than twice as large as any other.
    const pixels = (2 * BLOCK + 1) * (2 * BLOCK - 1)
    this.low = new Float32Array(CHANNELS * pixels)
    this.high = new Float32Array(CHANNELS * pixels)
  }

  /** Works out the ranges of a block and of those beside it, which is as far as it is moved. */
  around(index: number): void {
    const { across, down } = this.grid
    const column = index % across
    const row = Math.floor(index / across)
    for (let y = Math.max(0, row - 1); y <= Math.min(down - 1, row + 1); y++)
      for (let x = Math.max(0, column - 1); x <= Math.min(across - 1, column + 1); x++)
        if (this.known[y * across + x] === 0) this.learn(y * across + x)
  }

  private learn(index: number): void {
    this.known[index] = 1
    const { plane, low, high, least, most } = this
    const { width, height, values } = plane
    const { x, y, w, h } = blockAt(plane, this.grid, index)
    const line = CHANNELS * width
    const span = CHANNELS * w
    const top = Math.max(0, y - 1)
    for (let row = top, to = 0; row < Math.min(height, y + h + 1); row++, to += span) {
      const first = row * line
      const last = first + line - CHANNELS
      const start = first + CHANNELS * x
      for (let k = 0; k < span; k++) {
        const i = start + k
        const own = values[i]
        const before = i < first + CHANNELS ? own : values[i - CHANNELS]
        const after = i >= last ? own : values[i + CHANNELS]
        low[to + k] = Math.min(Math.min(before, own), after)
        high[to + k] = Math.max(Math.max(before, own), after)
      }
    }
    for (let row = y; row < y + h; row++) {
      const here = (row - top) * span
      const up = row > 0 ? here - span : here
      const below = row < height - 1 ? here + span : here
      const start = row * line + CHANNELS * x
      for (let k = 0; k < span; k++) {
        const own = values[start + k]
        const lower = Math.min(Math.min(low[up + k], low[here + k]), low[below + k])
        const higher = Math.max(Math.max(high[up + k], high[here + k]), high[below + k])
        least[start + k] = (lower + own) / 2
        most[start + k] = (higher + own) / 2
      }
    }
  }
}

/** Mean square of what a block of `a` lies outside the range of the same block of `b` moved by a shift; may stop above `limit`. */
function blockDifference(a: Ranged, b: Ranged, block: Block, [dx, dy]: Shift, limit: number): number {
  const { x, y, w, h } = block
  const { width, values } = a.plane
  const { least, most } = b
  const count = w * h
  const enough = limit * count
  const shift = CHANNELS * (dy * width + dx)
  let sum = 0
  for (let row = y; row < y + h && sum <= enough; row++)
    for (let i = CHANNELS * (row * width + x), end = i + CHANNELS * w; i < end; i++) {
      const value = values[i]
      const over = value - most[i + shift]
      const under = least[i + shift] - value
      if (over > 0) sum += over * over
      else if (under > 0) sum += under * under
    }
  return sum / count
}

/** Mean square difference of a block of two planes where nothing is moved; may stop above `limit`. No residual of the block is greater. */
function plainDifference(a: Plane, b: Plane, { x, y, w, h }: Block, limit = Infinity): number {
  const count = w * h
  const most = limit * count
  let sum = 0
  for (let row = y; row < y + h && sum <= most; row++)
    for (let i = CHANNELS * (row * a.width + x), end = i + CHANNELS * w; i < end; i++) {
      const difference = a.values[i] - b.values[i]
      sum += difference * difference
    }
  return sum / count
}

/** Where a block of one frame is found in another, and the mean square difference that is left. */
interface Match {
  readonly shift: Shift
  readonly left: number
}

/** The best match of a block within reach; the first one that leaves at most `enough` ends the search. */
function bestMatch(a: Ranged, b: Ranged, block: Block, enough: number, guess: Shift): Match {
  const { width, height } = a.plane
  const { x, y, w, h } = block
  let shift = NO_SHIFT
  let left = Infinity
  for (let k = -1; k < SHIFTS.length && left > enough; k++) {
    const tried = k < 0 ? guess : SHIFTS[k]
    const [dx, dy] = tried
    if (x + dx < 0 || y + dy < 0 || x + w + dx > width || y + h + dy > height) continue
    const remains = blockDifference(a, b, block, tried, left)
    if (remains >= left) continue
    left = remains
    shift = tried
  }
  return { shift, left }
}

/** A pair of frames that follow each other, block by block. */
export class Pair {
  /** Shifts that were found last, by block: the next search begins there. */
  private readonly forth: Shift[] = []
  private readonly back: Shift[] = []

  constructor(
    readonly before: Ranged,
    readonly after: Ranged,
    readonly grid: BlockGrid,
  ) {}

  get blocks(): number {
    return this.grid.across * this.grid.down
  }

  /**
   * Residual of a block: the root mean square difference from its best match, the greater of both directions. At the edge of the frame the
   * lesser, since content that enters there has no match in the frame before. Exact above `enough`; a lower bound is not searched for.
   */
  residual(index: number, enough = 0): number {
    const { before, after, grid } = this
    const block = blockAt(before.plane, grid, index)
    const limit = enough * enough
    // A block that stays in place needs no search: it is its own match both ways.
    if (plainDifference(before.plane, after.plane, block, limit) <= limit) return enough
    before.around(index)
    after.around(index)
    const near = (shifts: readonly Shift[]) => shifts[index - 1] ?? NO_SHIFT
    const arriving = bestMatch(after, before, block, limit, near(this.back))
    this.back[index] = arriving.shift
    const atEdge = isAtEdge(grid, index)
    if (atEdge && arriving.left <= limit) return Math.sqrt(arriving.left)
    const leaving = bestMatch(before, after, block, limit, near(this.forth))
    this.forth[index] = leaving.shift
    return Math.sqrt(atEdge ? Math.min(arriving.left, leaving.left) : Math.max(arriving.left, leaving.left))
  }

  /** Residual of the pair: the mean of its worst blocks. Blocks that leave at most `enough` count as that much. */
  value(enough = 0): number {
    const worst = new Array<number>(WORST_BLOCKS).fill(enough)
    for (let index = 0; index < this.blocks; index++) {
      const left = this.residual(index, worst[WORST_BLOCKS - 1])
      if (left <= worst[WORST_BLOCKS - 1]) continue
      worst[WORST_BLOCKS - 1] = left
      worst.sort((a, b) => b - a)
    }
    return worst.reduce((sum, left) => sum + left, 0) / WORST_BLOCKS
  }

  /** Residuals of all blocks, each exact. */
  residuals(): number[] {
    return Array.from({ length: this.blocks }, (_, index) => this.residual(index))
  }

  /**
   * Residual of a block when each pixel takes the best of three kinds of shift: its block's, a neighbouring block's, or none. Occlusion, which
   * one shift per block cannot explain, leaves little. Root mean square. Call `residuals` first: it finds the shifts.
   */
  finely(index: number): number {
    this.before.around(index)
    this.after.around(index)
    const ways = [
      pixelwise(
        this.after,
        this.before,
        blockAt(this.before.plane, this.grid, index),
        this.shiftsNear(this.back, index),
      ),
      pixelwise(
        this.before,
        this.after,
        blockAt(this.before.plane, this.grid, index),
        this.shiftsNear(this.forth, index),
      ),
    ] as const
    return Math.sqrt(isAtEdge(this.grid, index) ? Math.min(...ways) : Math.max(...ways))
  }

  private shiftsNear(shifts: readonly Shift[], index: number): readonly Shift[] {
    const { across } = this.grid
    const column = index % across
    const near = [index, index - across, index + across]
    if (column > 0) near.push(index - 1)
    if (column < across - 1) near.push(index + 1)
    return [...new Set([NO_SHIFT, ...near.map((each) => shifts[each] ?? NO_SHIFT)])]
  }
}

/** Mean square of what the pixels of a block of `a` lie outside the ranges of `b`, each moved by whichever shift leaves least. */
function pixelwise(a: Ranged, b: Ranged, { x, y, w, h }: Block, shifts: readonly Shift[]): number {
  const { width, height, values } = a.plane
  let sum = 0
  for (let row = y; row < y + h; row++)
    for (let column = x; column < x + w; column++) {
      const from = CHANNELS * (row * width + column)
      let best = Infinity
      for (const [dx, dy] of shifts) {
        if (row + dy < 0 || row + dy >= height || column + dx < 0 || column + dx >= width) continue
        const to = from + CHANNELS * (dy * width + dx)
        let left = 0
        for (let c = 0; c < CHANNELS; c++) {
          const value = values[from + c]
          left += Math.max(0, value - b.most[to + c], b.least[to + c] - value) ** 2
        }
        best = Math.min(best, left)
      }
      sum += best
    }
  return sum / (w * h)
}

/** Mean of the worst blocks of a pair where nothing is moved: no residual of it is greater. */
export function unmatched(a: Plane, b: Plane, grid: BlockGrid): number {
  const worst = new Array<number>(WORST_BLOCKS).fill(0)
  for (let index = 0; index < grid.across * grid.down; index++) {
    const square = plainDifference(a, b, blockAt(a, grid, index))
    if (square <= worst[WORST_BLOCKS - 1]) continue
    worst[WORST_BLOCKS - 1] = square
    worst.sort((p, q) => q - p)
  }
  return worst.reduce((total, square) => total + Math.sqrt(square), 0) / WORST_BLOCKS
}
