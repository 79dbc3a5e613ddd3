/** Contrast is kept by cells, so many across: what stands still in both pictures keeps its own where what moves has lost some. */
const ACROSS = 24
/** No cell is stretched by more than this: two pictures that are mixed lose no more. */
const MOST = Math.SQRT2

/** Light of pixels, red, green and blue each, not multiplied by alpha; alpha, where it is 0, says that there is none. */
export interface Light {
  readonly width: number
  readonly height: number
  readonly light: Float32Array
  readonly alpha: Float32Array
}

/** A picture that is in a mix, by the light of its pixels and how much of it there is. */
export interface Share {
  readonly weight: number
  readonly lightAt: (pixel: number, channel: number) => number
}

/**
 * Gives a mix of pictures the contrast that they have in the mean: in each cell the deviation from its mean light is divided by how much of it mixing has left (Heitz & Neyret 2018, who divide by
 * √Σw², which is that of pictures that have nothing in common). Cells go over into each other.
 */
export function keepContrast({ width, height, light, alpha }: Light, shares: readonly Share[]): void {
  const across = Math.min(ACROSS, width)
  const down = Math.max(1, Math.min(height, Math.round((across * height) / width)))
  const cells = across * down
  const sums = shares.map(() => new Float64Array(2 * cells))
  const [mixed, means, counts] = [new Float64Array(2 * cells), new Float64Array(3 * cells), new Float64Array(cells)]
  const add = (into: Float64Array, cell: number, luma: number) => {
    into[2 * cell] = (into[2 * cell] as number) + luma
    into[2 * cell + 1] = (into[2 * cell + 1] as number) + luma * luma
  }
  for (let y = 0, p = 0; y < height; y++)
    for (let x = 0; x < width; x++, p++) {
      if ((alpha[p] as number) <= 0) continue
      const cell = Math.floor((y * down) / height) * across + Math.floor((x * across) / width)
      counts[cell] = (counts[cell] as number) + 1
      const [r, g, b] = [light[3 * p] as number, light[3 * p + 1] as number, light[3 * p + 2] as number]
      means[3 * cell] = (means[3 * cell] as number) + r
      means[3 * cell + 1] = (means[3 * cell + 1] as number) + g
      means[3 * cell + 2] = (means[3 * cell + 2] as number) + b
      add(mixed, cell, 0.2126 * r + 0.7152 * g + 0.0722 * b)
      for (let k = 0; k < shares.length; k++) {
        const { lightAt } = shares[k] as Share
        add(sums[k] as Float64Array, cell, 0.2126 * lightAt(p, 0) + 0.7152 * lightAt(p, 1) + 0.0722 * lightAt(p, 2))
      }
    }
  const stretch = new Float32Array(cells).fill(1)
  for (let cell = 0; cell < cells; cell++) {
    const n = counts[cell] as number
    if (n === 0) continue
    const variance = (of: Float64Array) =>
      Math.max(0, (of[2 * cell + 1] as number) / n - ((of[2 * cell] as number) / n) ** 2)
    const left = variance(mixed)
    const wanted = shares.reduce((sum, { weight }, k) => sum + weight * variance(sums[k] as Float64Array), 0)
    if (left > 1e-9) stretch[cell] = Math.max(1, Math.min(MOST, Math.sqrt(wanted / left)))
    for (let c = 0; c < 3; c++) means[3 * cell + c] = (means[3 * cell + c] as number) / n
  }
  // Where no cell has lost any, nothing is to be done.
  if (!stretch.some((by) => by > 1.0001)) return
  const columns = bordersBetween(width, across)
  const rows = bordersBetween(height, down)
  for (let y = 0, p = 0; y < height; y++) {
    const [top, bottom, fy] = [rows.first[y] as number, rows.second[y] as number, rows.share[y] as number]
    for (let x = 0; x < width; x++, p++) {
      if ((alpha[p] as number) <= 0) continue
      const left = columns.first[x] as number
      const right = columns.second[x] as number
      const fx = columns.share[x] as number
      const a = top * across + left
      const b = top * across + right
      const c = bottom * across + left
      const d = bottom * across + right
      const wa = (1 - fx) * (1 - fy)
      const wb = fx * (1 - fy)
      const wc = (1 - fx) * fy
      const wd = fx * fy
      const by =
        wa * (stretch[a] as number) +
        wb * (stretch[b] as number) +
        wc * (stretch[c] as number) +
        wd * (stretch[d] as number)
      if (by <= 1.0001) continue
      const na = counts[a] ? wa : 0
      const nb = counts[b] ? wb : 0
      const nc = counts[c] ? wc : 0
      const nd = counts[d] ? wd : 0
      const seen = na + nb + nc + nd
      if (seen <= 0) continue
      for (let k = 0; k < 3; k++) {
        const mean =
          (na * (means[3 * a + k] as number) +
            nb * (means[3 * b + k] as number) +
            nc * (means[3 * c + k] as number) +
            nd * (means[3 * d + k] as number)) /
          seen
        const own = light[3 * p + k] as number
        light[3 * p + k] = mean + (own - mean) * by
      }
    }
  }
}

/** Between the middles of which two cells each of so many px lies, and how far on the way to the second. */
function bordersBetween(size: number, cells: number) {
  const [first, second, share] = [new Uint16Array(size), new Uint16Array(size), new Float32Array(size)]
  for (let n = 0; n < size; n++) {
    const at = Math.max(0, Math.min(cells - 1, ((n + 0.5) * cells) / size - 0.5))
    first[n] = Math.floor(at)
    second[n] = Math.min(cells - 1, Math.floor(at) + 1)
    share[n] = at - Math.floor(at)
  }
  return { first, second, share }
}
