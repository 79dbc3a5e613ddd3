/** Contrast is kept by cells, so many across, and that of their means by so many times fewer, and so on. */
const ACROSS = 24
const FEWER = 4
/** No cell is stretched by more than this. Two pictures that have nothing in common lose √2 in the mean, and in one cell or another more. */
const MOST = 2

/** Variances of less than this are of rounding. */
const LEAST = 0.1

/** Red, green and blue of pixels, as bytes are but not rounded, not multiplied by alpha; alpha, where it is 0, says that there is none. */
export interface Values {
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

/** What cells of a picture hold: mean values, and the variance of their luma. */
interface Cells {
  readonly means: Float32Array
  readonly variances: Float64Array
}

const luma = (r: number, g: number, b: number) => 0.2126 * r + 0.7152 * g + 0.0722 * b

/**
 * Gives a mix of pictures the contrast that they have in the mean: the deviation from the mean of each cell is divided by how much of it mixing has left (Heitz & Neyret 2018 divide linear light by
 * √Σw², which is that of pictures that have nothing in common; what stands still has lost nothing). Cells go over into each other, and keep the contrast between them likewise.
 */
export const keepContrast = (mix: Values, shares: readonly Share[]): void => keep(mix, shares, ACROSS)

function keep(mix: Values, shares: readonly Share[], most: number): void {
  const { width, height, values, alpha } = mix
  const across = Math.min(most, width)
  const down = Math.max(1, Math.min(height, Math.round((across * height) / width)))
  const cells = across * down
  const [columns, rows] = [cellsOver(width, across), cellsOver(height, down)]
  const counts = new Float32Array(cells)
  for (let y = 0, p = 0; y < height; y++)
    for (let x = 0; x < width; x++, p++) {
      const cell = (rows.own[y] as number) * across + (columns.own[x] as number)
      if ((alpha[p] as number) > 0) counts[cell] = (counts[cell] as number) + 1
    }
  const cellsOf = (valueAt: Share['valueAt']): Cells => {
    const [means, sums, squares] = [new Float32Array(3 * cells), new Float64Array(cells), new Float64Array(cells)]
    for (let y = 0, p = 0; y < height; y++)
      for (let x = 0; x < width; x++, p++) {
        if ((alpha[p] as number) <= 0) continue
        const cell = (rows.own[y] as number) * across + (columns.own[x] as number)
        const [r, g, b] = [valueAt(p, 0), valueAt(p, 1), valueAt(p, 2)]
        const value = luma(r, g, b)
        means[3 * cell] = (means[3 * cell] as number) + r
        means[3 * cell + 1] = (means[3 * cell + 1] as number) + g
        means[3 * cell + 2] = (means[3 * cell + 2] as number) + b
        sums[cell] = (sums[cell] as number) + value
        squares[cell] = (squares[cell] as number) + value * value
      }
    const variances = squares.map((square, cell) => {
      const n = Math.max(1, counts[cell] as number)
      for (let c = 0; c < 3; c++) means[3 * cell + c] = (means[3 * cell + c] as number) / n
      return Math.max(0, square / n - ((sums[cell] as number) / n) ** 2)
    })
    return { means, variances }
  }
  const own = cellsOf((p, c) => values[3 * p + c] as number)
  const theirs = shares.map(({ valueAt }) => cellsOf(valueAt))
  const stretch = own.variances.map((left, cell) => {
    const wanted = shares.reduce(
      (sum, { weight }, k) => sum + weight * ((theirs[k] as Cells).variances[cell] as number),
      0,
    )
    return left > LEAST ? Math.max(1, Math.min(MOST, Math.sqrt(wanted / left))) : 1
  })
  const means = own.means.slice()
  if (Math.max(across, down) > FEWER)
    keep(
      { width: across, height: down, values: means, alpha: counts },
      shares.map(({ weight }, k) => ({ weight, valueAt: (p, c) => (theirs[k] as Cells).means[3 * p + c] as number })),
      Math.max(1, Math.round(across / FEWER)),
    )
  const corners = new Int32Array(4)
  const weights = new Float32Array(4)
  for (let y = 0, p = 0; y < height; y++) {
    const fy = rows.share[y] as number
    for (let x = 0; x < width; x++, p++) {
      if ((alpha[p] as number) <= 0) continue
      const fx = columns.share[x] as number
      const [top, bottom] = [(rows.first[y] as number) * across, (rows.second[y] as number) * across]
      corners[0] = top + (columns.first[x] as number)
      corners[1] = top + (columns.second[x] as number)
      corners[2] = bottom + (columns.first[x] as number)
      corners[3] = bottom + (columns.second[x] as number)
      weights[0] = (1 - fx) * (1 - fy)
      weights[1] = fx * (1 - fy)
      weights[2] = (1 - fx) * fy
      weights[3] = fx * fy
      let [by, seen] = [0, 0]
      for (let k = 0; k < 4; k++) {
        // Cells with nothing in them say nothing.
        if ((counts[corners[k] as number] as number) <= 0) weights[k] = 0
        seen += weights[k] as number
        by += (weights[k] as number) * (stretch[corners[k] as number] as number)
      }
      if (seen <= 0) continue
      by /= seen
      for (let c = 0; c < 3; c++) {
        let [before, after] = [0, 0]
        for (let k = 0; k < 4; k++) {
          const at = 3 * (corners[k] as number) + c
          before += (weights[k] as number) * (own.means[at] as number)
          after += (weights[k] as number) * (means[at] as number)
        }
        values[3 * p + c] = after / seen + ((values[3 * p + c] as number) - before / seen) * by
      }
    }
  }
}

/** The cell in which each of so many px lies, and between the middles of which two it does, and how far on the way to the second. */
function cellsOver(size: number, cells: number) {
  const [own, first, second] = [new Uint16Array(size), new Uint16Array(size), new Uint16Array(size)]
  const share = new Float32Array(size)
  for (let n = 0; n < size; n++) {
    own[n] = Math.floor((n * cells) / size)
    const at = Math.max(0, Math.min(cells - 1, ((n + 0.5) * cells) / size - 0.5))
    first[n] = Math.floor(at)
    second[n] = Math.min(cells - 1, Math.floor(at) + 1)
    share[n] = at - Math.floor(at)
  }
  return { own, first, second, share }
}
