import type { Picture } from '../../image'
import { hash } from '../../random'
import { median } from '../../statistics'

/** Grain of pictures of a given width, as a standard deviation, of 255. */
export interface Grain {
  readonly deviation: number
  readonly width: number
}

/** Even numbers of a standard deviation of one, in an order that looks random: as many as make no pattern. */
const SIZE = 1 << 14
const GRAINS = Float32Array.from({ length: SIZE }, (_, i) => {
  let sum = 0
  for (let k = 0; k < 4; k++) sum += hash(i, k) / 2 ** 32
  return (sum - 2) * Math.sqrt(3)
})

/** A picture in which grain has been smoothed, and of each pixel the share of its variance that is left. */
export interface Smoothed {
  readonly picture: Picture
  readonly left: Float32Array
}

/**
 * Lays grain anew where it was smoothed, alike in all channels.
 * @param seeds what it follows from
 */
export function withGrain(smoothed: Smoothed, grain: Grain, seeds: readonly number[]): Picture {
  const { picture, left } = smoothed
  const { width, height, data } = picture
  // Smaller pictures have less of it: each of their pixels is the mean of several.
  const deviation = grain.deviation * Math.min(1, width / grain.width)
  const out = new Uint8ClampedArray(data)
  for (let y = 0, p = 0; y < height; y++) {
    // Each row begins elsewhere, so that none goes on in another.
    const from = hash(...seeds, y)
    for (let x = 0; x < width; x++, p++) {
      const lost = 1 - left[p]
      if (lost < 1e-6) continue
      const by = deviation * Math.sqrt(lost) * GRAINS[(from + x) & (SIZE - 1)]
      for (let i = 4 * p; i < 4 * p + 3; i++) out[i] = data[i] + by
    }
  }
  return { width, height, data: out }
}

/** Grain is measured at this many pixels. */
const MEASURED_PIXELS = 40_000

/**
 * How much grain two frames that follow each other have, as a standard deviation of 255: by what differs between pixels and those beside them from the one to the other, so that neither
 * what stands nor what moves slowly counts; the median of it, so that what moves quickly does not.
 */
export function grainOf(first: Picture, second: Picture): number {
  const { width, height } = first
  const every = Math.max(1, Math.floor((width * height) / MEASURED_PIXELS))
  const differences: number[] = []
  for (let p = width + 1; p < width * (height - 1) - 1; p += every) {
    const at = (n: number) => first.data[4 * n + 1] - second.data[4 * n + 1]
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

/**
 * Grain is measured in this many pairs of frames; a standard deviation below the second value counts as none, of 255.
 */
const MEASURED_PAIRS = 5
const MIN_GRAIN = 0.5

/** How much grain the pictures of a clip have; none where there is hardly any. */
export function grainIn(pictures: readonly Picture[]): Grain | undefined {
  const [first] = pictures
  if (!first || pictures.length < 2) return undefined
  const at = Array.from({ length: MEASURED_PAIRS }, (_, k) => Math.floor((k * (pictures.length - 1)) / MEASURED_PAIRS))
  const deviation = median(at.map((n) => grainOf(pictures[n], pictures[n + 1])))
  return deviation < MIN_GRAIN ? undefined : { deviation, width: first.width }
}
