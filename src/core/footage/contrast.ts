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
  const lumaOf = (r: number, g: number, b: number) => 0.2126 * r + 0.7152 * g + 0.0722 * b
  for (let y = 0, p = 0; y < height; y++)
    for (let x = 0; x < width; x++, p++) {
      if ((alpha[p] as number) <= 0) continue
      const cell = Math.floor((y * down) / height) * across + Math.floor((x * across) / width)
      counts[cell] = (counts[cell] as number) + 1
      for (let c = 0; c < 3; c++) means[3 * cell + c] = (means[3 * cell + c] as number) + (light[3 * p + c] as number)
      const add = (into: Float64Array, value: number) => {
        into[2 * cell] = (into[2 * cell] as number) + value
        into[2 * cell + 1] = (into[2 * cell + 1] as number) + value * value
      }
      add(mixed, lumaOf(light[3 * p] as number, light[3 * p + 1] as number, light[3 * p + 2] as number))
      for (const [k, { lightAt }] of shares.entries())
        add(sums[k] as Float64Array, lumaOf(lightAt(p, 0), lightAt(p, 1), lightAt(p, 2)))
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
  for (let y = 0, p = 0; y < height; y++) {
    const cy = Math.max(0, Math.min(down - 1, ((y + 0.5) * down) / height - 0.5))
    const [top, fy] = [Math.floor(cy), cy - Math.floor(cy)]
    const bottom = Math.min(down - 1, top + 1)
    for (let x = 0; x < width; x++, p++) {
      if ((alpha[p] as number) <= 0) continue
      const cx = Math.max(0, Math.min(across - 1, ((x + 0.5) * across) / width - 0.5))
      const left = Math.floor(cx)
      const fx = cx - left
      const right = Math.min(across - 1, left + 1)
      const around = [
        [top * across + left, (1 - fx) * (1 - fy)],
        [top * across + right, fx * (1 - fy)],
        [bottom * across + left, (1 - fx) * fy],
        [bottom * across + right, fx * fy],
      ] as const
      let by = 0
      for (const [cell, weight] of around) by += weight * (stretch[cell] as number)
      if (by <= 1.0001) continue
      let seen = 0
      for (const [cell, weight] of around) if ((counts[cell] as number) > 0) seen += weight
      for (let c = 0; c < 3; c++) {
        let mean = 0
        for (const [cell, weight] of around)
          if ((counts[cell] as number) > 0) mean += (weight / seen) * (means[3 * cell + c] as number)
        const own = light[3 * p + c] as number
        light[3 * p + c] = mean + (own - mean) * by
      }
    }
  }
}
