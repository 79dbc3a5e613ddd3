import type { Picture } from '../image'
import { hash } from '../random'
import { median } from '../statistics'

/** Even numbers of a standard deviation of one, in an order that looks random: as many as make no pattern. */
const SIZE = 1 << 14
const GRAINS = Float32Array.from({ length: SIZE }, (_, i) => {
  let sum = 0
  for (let k = 0; k < 4; k++) sum += hash(i, k) / 2 ** 32
  return (sum - 2) * Math.sqrt(3)
})

/**
 * A picture with grain of its own, alike in all channels.
 * @param deviation standard, of 255
 * @param seeds what the grain follows from
 */
export function withGrain({ width, height, data }: Picture, deviation: number, seeds: readonly number[]): Picture {
  const out = new Uint8ClampedArray(data)
  for (let y = 0, i = 0; y < height; y++) {
    // Each row begins elsewhere, so that none goes on in another.
    const from = hash(...seeds, y)
    for (let x = 0; x < width; x++, i += 4) {
      const by = deviation * (GRAINS[(from + x) & (SIZE - 1)] as number)
      for (let c = 0; c < 3; c++) out[i + c] = (data[i + c] as number) + by
    }
  }
  return { width, height, data: out }
}

/** So many pixels tell how much grain there is. */
const LOOKED_AT = 40_000

/**
 * How much grain two frames that follow each other have, as a standard deviation of 255: by what differs between pixels and those beside them from the one to the other, so that neither
 * what stands nor what moves slowly counts; the median of it, so that what moves quickly does not.
 */
export function grainOf(first: Picture, second: Picture): number {
  const { width, height } = first
  const every = Math.max(1, Math.floor((width * height) / LOOKED_AT))
  const differences: number[] = []
  for (let p = width + 1; p < width * (height - 1) - 1; p += every) {
    const at = (n: number) => (first.data[4 * n + 1] as number) - (second.data[4 * n + 1] as number)
    // The cross of differences about it (Immerkær 1996): 36 times the variance of each.
    const cross =
      at(p - width - 1) +
      at(p - width + 1) +
      at(p + width - 1) +
      at(p + width + 1) -
      2 * (at(p - width) + at(p + width) + at(p - 1) + at(p + 1)) +
      4 * at(p)
    differences.push(Math.abs(cross))
  }
  return median(differences) / 0.6745 / 6 / Math.SQRT2
}
