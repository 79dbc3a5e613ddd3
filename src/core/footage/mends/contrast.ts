import { luma } from '../../image'
import { blockOf, CellBlend, type CellGrid, cellGridOf, LEVEL_RATIO, type PixelValues } from './cell-grid'

/** Cells along the longer side at the finest level. */
const CELLS_ACROSS = 24
/** Largest gain of a cell's contrast. Averaging two unrelated pictures divides it by √2; single cells lose more. */
const MAX_GAIN = 2
/** Variances below this come from rounding. */
const MIN_VARIANCE = 0.1
/** Largest multiple of the added contrast that a block of cells may get. */
const MAX_SHARE = 1.5

/** A picture in a mix: its weight, and its values by pixel and channel. */
export interface Share {
  readonly weight: number
  readonly valueAt: (pixel: number, channel: number) => number
}

/** Statistics of the cells of a picture: mean colours, the variance of their luma, and that of blocks of cells. */
interface CellStatistics {
  readonly means: Float32Array
  readonly variances: Float64Array
  readonly ofBlocks: Float64Array
}

/**
 * Gives a mix of pictures the mean of their contrasts: the deviation from the mean of each cell is divided by the share of
 * it that mixing has left. (Heitz & Neyret 2018 divide linear light by √Σw², which holds for pictures that have nothing in
 * common; a part that stands still has lost nothing.) Gains are interpolated between cells, and the contrast between cells
 * is kept in the same way, level by level.
 * @returns the gain of each pixel
 */
export const keepContrast = (mix: PixelValues, shares: readonly Share[]): Float32Array =>
  keepLevel(mix, shares, CELLS_ACROSS)

/** One level of keepContrast, with at most `most` cells along the width. */
function keepLevel(mix: PixelValues, shares: readonly Share[], most: number): Float32Array {
  const grid = cellGridOf(mix, most)
  const own = cellStatistics(mix, grid, (p, c) => mix.values[3 * p + c])
  const theirs = shares.map(({ valueAt }) => cellStatistics(mix, grid, valueAt))
  const gains = cellGains(own.variances, meanStatistics(shares, theirs, 'variances'))
  const means = keptMeans(grid, own.means, shares, theirs)
  const { added, gained } = applyGains(mix, grid, own.means, means, gains)
  const ofBlocks = blockShares(mix, grid, added, meanStatistics(shares, theirs, 'ofBlocks'))
  addShares(mix, grid, added, cellShares(grid, ofBlocks), gained)
  return gained
}

function cellStatistics(
  { width, height, alpha }: PixelValues,
  grid: CellGrid,
  valueAt: Share['valueAt'],
): CellStatistics {
  const { across, columns, rows, every, counts } = grid
  const means = new Float32Array(3 * counts.length)
  const sums = new Float64Array(counts.length)
  const squares = new Float64Array(counts.length)
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
  const n = blockSums(grid, counts)
  const sum = blockSums(grid, sums)
  const ofBlocks = blockSums(grid, squares).map((square, block) => {
    const count = Math.max(1, n[block])
    return Math.max(0, square / count - (sum[block] / count) ** 2)
  })
  return { means, variances, ofBlocks }
}

/** Sums of values of cells over each block. */
function blockSums(grid: CellGrid, ofCells: Float32Array | Float64Array): Float64Array {
  const sums = new Float64Array(grid.blockColumns.cells * grid.blockRows.cells)
  for (const [cell, value] of ofCells.entries()) sums[blockOf(grid, cell)] += value
  return sums
}

/** Mean of a statistic over all pictures of a mix, by their weights. */
function meanStatistics(
  shares: readonly Share[],
  theirs: readonly CellStatistics[],
  of: 'variances' | 'ofBlocks',
): Float64Array {
  const length = theirs[0]?.[of].length ?? 0
  return Float64Array.from({ length }, (_, i) =>
    shares.reduce((sum, { weight }, k) => sum + weight * theirs[k][of][i], 0),
  )
}

/** Gain of each cell that gives it the wanted variance. */
const cellGains = (variances: Float64Array, wanted: Float64Array): Float32Array =>
  Float32Array.from(variances, (left, cell) =>
    left > MIN_VARIANCE ? Math.max(1, Math.min(MAX_GAIN, Math.sqrt(wanted[cell] / left))) : 1,
  )

/** Mean colours of the cells, with the contrast between cells kept by the coarser levels. */
function keptMeans(
  { across, down, counts }: CellGrid,
  own: Float32Array,
  shares: readonly Share[],
  theirs: readonly CellStatistics[],
): Float32Array {
  const means = own.slice()
  const coarser = Math.max(1, Math.round(across / LEVEL_RATIO))
  // A picture one cell wide and many high has no coarser level.
  if (Math.max(across, down) > LEVEL_RATIO && coarser < across)
    keepLevel(
      { width: across, height: down, values: means, alpha: counts },
      shares.map(({ weight }, k) => ({ weight, valueAt: (p, c) => theirs[k].means[3 * p + c] })),
      coarser,
    )
  return means
}

/**
 * Exchanges the interpolated cell means of a picture for the kept ones.
 * @returns the contrast that the gains would add to each value, and the gain of each pixel
 */
function applyGains(
  { width, height, values, alpha }: PixelValues,
  grid: CellGrid,
  ownMeans: Float32Array,
  means: Float32Array,
  gains: Float32Array,
): { readonly added: Float32Array; readonly gained: Float32Array } {
  const blend = new CellBlend(grid)
  const added = new Float32Array(values.length)
  const gained = new Float32Array(width * height).fill(1)
  for (let y = 0, p = 0; y < height; y++)
    for (let x = 0; x < width; x++, p++) {
      const seen = alpha[p] > 0 ? blend.moveTo(x, y) : 0
      if (seen <= 0) continue
      const gain = blend.sum(gains, 1, 0) / seen
      for (let c = 0; c < 3; c++) {
        const deviation = values[3 * p + c] - blend.sum(ownMeans, 3, c) / seen
        values[3 * p + c] = blend.sum(means, 3, c) / seen + deviation
        added[3 * p + c] = deviation * (gain - 1)
      }
      gained[p] = gain
    }
  return { added, gained }
}

/** Adds to each pixel the share of the contrast that its cells get. */
function addShares(
  { width, height, values, alpha }: PixelValues,
  grid: CellGrid,
  added: Float32Array,
  shares: Float32Array,
  gained: Float32Array,
): void {
  const blend = new CellBlend(grid)
  for (let y = 0, p = 0; y < height; y++)
    for (let x = 0; x < width; x++, p++) {
      const seen = alpha[p] > 0 ? blend.moveTo(x, y) : 0
      if (seen <= 0) continue
      const share = blend.sum(shares, 1, 0) / seen
      for (let i = 3 * p; i < 3 * p + 3; i++) values[i] += share * added[i]
      gained[p] = 1 + share * (gained[p] - 1)
    }
}

/**
 * The share of the added contrast with which each block gets its wanted variance of luma. It corrects for the correlation
 * between cells, and for the contrast that interpolating between them costs.
 */
function blockShares(
  { width, height, values, alpha }: PixelValues,
  grid: CellGrid,
  added: Float32Array,
  wanted: Float64Array,
): Float32Array {
  const { across, rows, columns, every } = grid
  const each = 6
  const sums = new Float64Array(each * wanted.length)
  for (let y = 0; y < height; y += every)
    for (let x = 0; x < width; x += every) {
      const i = 3 * (y * width + x)
      if (alpha[i / 3] <= 0) continue
      const a = luma(values[i], values[i + 1], values[i + 2])
      const b = luma(added[i], added[i + 1], added[i + 2])
      const at = each * blockOf(grid, rows.own[y] * across + columns.own[x])
      sums[at] += 1
      sums[at + 1] += a
      sums[at + 2] += b
      sums[at + 3] += a * a
      sums[at + 4] += a * b
      sums[at + 5] += b * b
    }
  return Float32Array.from(wanted, (variance, block) =>
    shareFor(variance, sums.subarray(each * block, each * (block + 1))),
  )
}

/** The s for which var(a + s · b) = var(a) + 2s · cov(a, b) + s² · var(b) is the wanted variance, from the sums of n, a, b, a², ab and b². */
function shareFor(variance: number, sums: Float64Array): number {
  const [n, a, b, aa, ab, bb] = sums
  if (n === 0) return 1
  const over = aa / n - (a / n) ** 2 - variance
  const covariance = ab / n - (a / n) * (b / n)
  const own = bb / n - (b / n) ** 2
  if (own < 1e-6) return 1
  const share = (-covariance + Math.sqrt(Math.max(0, covariance * covariance - own * over))) / own
  return Math.max(0, Math.min(MAX_SHARE, share))
}

/** Shares of blocks interpolated at the centre of each cell. */
function cellShares({ across, counts, blockColumns, blockRows }: CellGrid, ofBlocks: Float32Array): Float32Array {
  return Float32Array.from({ length: counts.length }, (_, cell) => {
    const x = cell % across
    const y = Math.floor(cell / across)
    const inRow = (row: number): number => {
      const left = ofBlocks[row * blockColumns.cells + blockColumns.first[x]]
      const right = ofBlocks[row * blockColumns.cells + blockColumns.second[x]]
      return left + blockColumns.share[x] * (right - left)
    }
    const top = inRow(blockRows.first[y])
    const bottom = inRow(blockRows.second[y])
    return top + blockRows.share[y] * (bottom - top)
  })
}
