/** Cells along the longer side at the finest level. */
const CELLS_ACROSS = 24
const LEVEL_RATIO = 4
/** No cell is stretched by more than this. Two pictures that have nothing in common lose √2 in the mean, and in one cell or another more. */
const MAX_GAIN = 2

/** A cell's mean and variance are taken from at most this many pixels per side. */
const SAMPLES_PER_SIDE = 16

/** Variances of less than this are of rounding. */
const MIN_VARIANCE = 0.1

/** Red, green and blue of pixels, as bytes are but not rounded, not multiplied by alpha; alpha, where it is 0, says that there is none. */
export interface PixelValues {
  readonly width: number
  readonly height: number
  readonly values: Float32Array
  readonly alpha: Float32Array
}

/** A picture that is in a mix, by the values of its pixels and how much of it there is. */
export interface Share {
  readonly weight: number
  readonly valueAt: (pixel: number, channel: number) => number
}

/** Statistics of the cells of a picture: mean colours, the variance of their luma, and that of blocks of cells. */
interface Cells {
  readonly means: Float32Array
  readonly variances: Float64Array
  readonly ofBlocks: Float64Array
}

const luma = (r: number, g: number, b: number) => 0.2126 * r + 0.7152 * g + 0.0722 * b

/**
 * Gives a mix of pictures the contrast that they have in the mean: the deviation from the mean of each cell is divided by how much of it mixing has left (Heitz & Neyret 2018 divide linear light by
 * √Σw², which is that of pictures that have nothing in common; what stands still has lost nothing). Cells go over into each other, and keep the contrast between them likewise.
 * @returns how much each pixel was stretched
 */
export const keepContrast = (mix: PixelValues, shares: readonly Share[]): Float32Array =>
  keep(mix, shares, CELLS_ACROSS)

function keep(mix: PixelValues, shares: readonly Share[], most: number): Float32Array {
  const { width, height, values, alpha } = mix
  const across = Math.min(most, width)
  const down = Math.max(1, Math.min(height, Math.round((across * height) / width)))
  const cells = across * down
  const columns = cellsOver(width, across)
  const rows = cellsOver(height, down)
  const counts = new Float32Array(cells)
  // Of large cells some of their pixels tell what they hold.
  const every = Math.max(1, Math.floor(width / across / SAMPLES_PER_SIDE))
  for (let y = 0; y < height; y += every)
    for (let x = 0; x < width; x += every) {
      const cell = rows.own[y] * across + columns.own[x]
      if (alpha[y * width + x] > 0) counts[cell] += 1
    }
  const [blockColumns, blockRows] = [across, down].map((size) => cellsOver(size, Math.ceil(size / LEVEL_RATIO))) as [
    Between,
    Between,
  ]
  const blockOf = (cell: number) =>
    blockRows.own[Math.floor(cell / across)] * blockColumns.cells + blockColumns.own[cell % across]
  const blocks = blockColumns.cells * blockRows.cells
  const cellsOf = (valueAt: Share['valueAt']): Cells => {
    const means = new Float32Array(3 * cells)
    const sums = new Float64Array(cells)
    const squares = new Float64Array(cells)
    for (let y = 0; y < height; y += every)
      for (let x = 0; x < width; x += every) {
        const p = y * width + x
        if (alpha[p] <= 0) continue
        const cell = rows.own[y] * across + columns.own[x]
        const r = valueAt(p, 0)
        const g = valueAt(p, 1)
        const b = valueAt(p, 2)
        const value = luma(r, g, b)
        means[3 * cell] += r
        means[3 * cell + 1] += g
        means[3 * cell + 2] += b
        sums[cell] += value
        squares[cell] += value * value
      }
    const variances = squares.map((square, cell) => {
      const n = Math.max(1, counts[cell])
      for (let c = 0; c < 3; c++) means[3 * cell + c] /= n
      return Math.max(0, square / n - (sums[cell] / n) ** 2)
    })
    const [n, sum, square] = [counts, sums, squares].map((of) => {
      const all = new Float64Array(blocks)
      for (const [cell, each] of of.entries()) all[blockOf(cell)] = all[blockOf(cell)] + each
      return all
    }) as [Float64Array, Float64Array, Float64Array]
    const ofBlocks = square.map((each, b) => {
      const count = Math.max(1, n[b])
      return Math.max(0, each / count - (sum[b] / count) ** 2)
    })
    return { means, variances, ofBlocks }
  }
  const own = cellsOf((p, c) => values[3 * p + c])
  const theirs = shares.map(({ valueAt }) => cellsOf(valueAt))
  /** The mean of what all shares have. */
  const wantedOf = (of: (cells: Cells) => Float64Array) =>
    of(own).map((_, i) => shares.reduce((sum, { weight }, k) => sum + weight * of(theirs[k])[i], 0))
  const wanted = wantedOf(({ variances }) => variances)
  const stretch = Float32Array.from(own.variances, (left, cell) =>
    left > MIN_VARIANCE ? Math.max(1, Math.min(MAX_GAIN, Math.sqrt(wanted[cell] / left))) : 1,
  )
  const means = own.means.slice()
  if (Math.max(across, down) > LEVEL_RATIO)
    keep(
      { width: across, height: down, values: means, alpha: counts },
      shares.map(({ weight }, k) => ({ weight, valueAt: (p, c) => theirs[k].means[3 * p + c] })),
      Math.max(1, Math.round(across / LEVEL_RATIO)),
    )
  const corners = new Int32Array(4)
  const weights = new Float32Array(4)
  /** Puts which cells are about a place, and how near each is; those with nothing in them say nothing. @returns how near all are */
  const putCells = (x: number, y: number): number => {
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
  const among = (of: Float32Array, each: number, c: number): number =>
    weights[0] * of[each * corners[0] + c] +
    weights[1] * of[each * corners[1] + c] +
    weights[2] * of[each * corners[2] + c] +
    weights[3] * of[each * corners[3] + c]
  // Values without any gain, and what the gains add to them.
  const added = new Float32Array(values.length)
  const stretched = new Float32Array(width * height).fill(1)
  for (let y = 0, p = 0; y < height; y++)
    for (let x = 0; x < width; x++, p++) {
      const seen = alpha[p] > 0 ? putCells(x, y) : 0
      if (seen <= 0) continue
      const by = among(stretch, 1, 0) / seen
      for (let c = 0; c < 3; c++) {
        const off = values[3 * p + c] - among(own.means, 3, c) / seen
        values[3 * p + c] = among(means, 3, c) / seen + off
        added[3 * p + c] = off * (by - 1)
      }
      stretched[p] = by
    }
  const ofBlocks = sharesOf(
    mix,
    added,
    wantedOf((each) => each.ofBlocks),
    every,
    (x, y) => blockOf(rows.own[y] * across + columns.own[x]),
  )
  const share = Float32Array.from({ length: cells }, (_, cell) => {
    const x = cell % across
    const y = Math.floor(cell / across)
    const fx = blockColumns.share[x]
    const fy = blockRows.share[y]
    const at = (row: Uint16Array) => {
      const from = row[y] * blockColumns.cells
      const [left, right] = [ofBlocks[from + blockColumns.first[x]], ofBlocks[from + blockColumns.second[x]]] as [
        number,
        number,
      ]
      return left + fx * (right - left)
    }
    const top = at(blockRows.first)
    const bottom = at(blockRows.second)
    return top + fy * (bottom - top)
  })
  for (let y = 0, p = 0; y < height; y++)
    for (let x = 0; x < width; x++, p++) {
      const seen = alpha[p] > 0 ? putCells(x, y) : 0
      if (seen <= 0) continue
      const by = among(share, 1, 0) / seen
      for (let i = 3 * p; i < 3 * p + 3; i++) values[i] += by * added[i]
      stretched[p] = 1 + by * (stretched[p] - 1)
    }
  return stretched
}

/** Largest multiple of the added contrast that a block of cells may get. */
const MAX_SHARE = 1.5

/** How much of what is added gives each block the variance that it is to have, of its luma: what cells do not know of each other, and what going over into each other costs, is made good. */
function sharesOf(
  { width, height, values, alpha }: PixelValues,
  added: Float32Array,
  wanted: Float64Array,
  every: number,
  blockAt: (x: number, y: number) => number,
): Float32Array {
  const each = 6
  const sums = new Float64Array(each * wanted.length)
  for (let y = 0; y < height; y += every)
    for (let x = 0; x < width; x += every) {
      const i = 3 * (y * width + x)
      if (alpha[i / 3] <= 0) continue
      const a = luma(values[i], values[i + 1], values[i + 2])
      const b = luma(added[i], added[i + 1], added[i + 2])
      const at = each * blockAt(x, y)
      sums[at] += 1
      sums[at + 1] += a
      sums[at + 2] += b
      sums[at + 3] += a * a
      sums[at + 4] += a * b
      sums[at + 5] += b * b
    }
  return Float32Array.from(wanted, (variance, block) => {
    const [n = 0, x = 0, y = 0, xx = 0, xy = 0, yy = 0] = sums.subarray(each * block, each * (block + 1))
    if (n === 0) return 1
    // var(a + s · b) = var(a) + 2s · cov(a, b) + s² · var(b)
    const over = xx / n - (x / n) ** 2 - variance
    const both = xy / n - (x / n) * (y / n)
    const own = yy / n - (y / n) ** 2
    if (own < 1e-6) return 1
    const share = (-both + Math.sqrt(Math.max(0, both * both - own * over))) / own
    return Math.max(0, Math.min(MAX_SHARE, share))
  })
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
