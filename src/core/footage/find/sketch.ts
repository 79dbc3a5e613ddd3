import { hash } from '../../random'
import { median, quantile } from '../../statistics'
import type { Glimpse } from '../look/glimpse'
import { strangeIn } from './strange'

/** Numbers by which a frame is told from others. */
const NUMBERS = 128

/** Where each value of a picture of a size goes, and by which sign: one of the numbers for each (Achlioptas 2003, one in each column). */
const projections = new Map<number, { readonly to: Uint8Array; readonly sign: Int8Array }>()

function projectionOf(length: number) {
  const known = projections.get(length)
  if (known) return known
  const to = new Uint8Array(length)
  const sign = new Int8Array(length)
  for (let i = 0; i < length; i++) {
    const random = hash(length, i)
    to[i] = random % NUMBERS
    sign[i] = random >>> 31 ? 1 : -1
  }
  projections.set(length, { to, sign })
  return { to, sign }
}

/**
 * Largest variance of a glimpse's values by grain, of 255². Grain is estimated as `times` the variance of the steadiest
 * `share` of the values that change.
 */
const MAX_GRAIN = 4
const STEADIEST = { share: 0.2, times: 1.5 }
/** Weight of a value that varies by grain alone. */
const MIN_WEIGHT = 0.2
/**
 * Light drifts over a clip if a straight line explains at least this share of it, in at least half of the values, and
 * if it changes from end to end by at most the second value, as a share: a greater change is a fade.
 */
const MIN_EXPLAINED = 0.7
const MAX_LIGHT_DRIFT = 0.7
/** Values below this are too dark to say anything of the light, of 255. */
const MIN_LIGHT = 8

/** How glimpses are weighed against each other: the light of each frame, by channel, and how much each value tells. */
interface Weighing {
  readonly light: readonly Float32Array[]
  readonly weights: Float32Array
}

/**
 * Weights of the values of a glimpse: the more a value varies over the clip beyond grain, the more it counts, so that a
 * small moving object is seen before a large still ground. Light that rises or falls steadily over the whole clip is
 * divided out.
 */
function weighed(glimpses: readonly Glimpse[]): Weighing {
  const count = glimpses.length
  const length = glimpses[0]?.data.length ?? 0
  const sums = new Float64Array(length)
  const squares = new Float64Array(length)
  const along = new Float64Array(length)
  for (const [n, { data }] of glimpses.entries()) {
    const at = n - (count - 1) / 2
    for (let i = 0; i < length; i++) {
      const value = data[i]
      sums[i] += value
      squares[i] += value * value
      along[i] += at * value
    }
  }
  const spread = (count * count - 1) / 12
  const variances = Float64Array.from(squares, (square, i) => Math.max(0, square / count - (sums[i] / count) ** 2))
  const slopes = [0, 1, 2].map((c) => {
    const [shares, explained]: [number[], number[]] = [[], []]
    for (let i = c; i < length; i += 4) {
      const mean = sums[i] / count
      if (mean < MIN_LIGHT || spread <= 0) continue
      const slope = along[i] / count / spread
      shares.push(slope / mean)
      explained.push((slope * slope * spread) / Math.max(1e-6, variances[i]))
    }
    const steady = shares.length > 0 && median(explained) > MIN_EXPLAINED ? median(shares) : 0
    return Math.abs(steady) * count > MAX_LIGHT_DRIFT ? 0 : steady
  })
  const light = slopes.map((slope) => Float32Array.from({ length: count }, (_, n) => 1 + slope * (n - (count - 1) / 2)))
  const left = variances.map((variance, i) => {
    const slope = slopes[i % 4] ?? 0
    const own = along[i] / count
    const by = (slope * sums[i]) / count
    return Math.max(0, variance - 2 * by * own + by * by * spread)
  })
  const changing = left.filter((variance) => variance > 0.01)
  const grain = Math.min(
    MAX_GRAIN,
    changing.length > 0 ? STEADIEST.times * quantile([...changing], STEADIEST.share) : 0,
  )
  const weights = Float32Array.from(left, (variance) => Math.max(MIN_WEIGHT, variance > 0 ? 1 - grain / variance : 0))
  const most = weights.reduce((sum, weight) => Math.max(sum, weight), MIN_WEIGHT)
  return { light, weights: weights.map((weight) => weight / most) }
}

/**
 * Frames of a clip in few numbers each: the distance of two is, within a few per cent, how far the frames are apart, as root mean square of 0 … 255 over colours on black and alpha, where all of
 * them moves; where little does, that counts most.
 */
export function sketchesOf(glimpses: readonly Glimpse[]): Float32Array[] {
  const { light, weights } = weighed(glimpses)
  const { to, sign } = projectionOf(weights.length)
  const scale = 1 / Math.sqrt(weights.length)
  const factors = Float64Array.from(weights, (weight, i) => weight * scale * sign[i])
  const sketch = new Float64Array(NUMBERS)
  return glimpses.map(({ data }, n) => {
    sketch.fill(0)
    for (let c = 0; c < 4; c++) {
      const by = 1 / (light[c]?.[n] ?? 1)
      for (let i = c; i < data.length; i += 4) {
        const k = to[i]
        sketch[k] += by * factors[i] * data[i]
      }
    }
    return new Float32Array(sketch)
  })
}

/** All pairs are compared of at most this many frames: some 150 MB. */
export const MAX_SEARCHED = 6000

/** Frames within this distance count as neighbours, in a clip of the given length. */
export const besideOf = (frames: number): number => Math.max(3, Math.round(frames / 40))

/** How far every two sketches are apart, squared: row i holds those to i + 1, i + 2 … */
function distancesOf(sketches: readonly Float32Array[]): Float32Array[] {
  const frames = sketches.length
  const rows = sketches.map((_, i) => new Float32Array(frames - i - 1))
  // One number more than is needed: two rows and two columns are worked out at once, so that each number is read half as often.
  const all = new Float64Array((frames + 1) * NUMBERS)
  for (const [i, sketch] of sketches.entries()) all.set(sketch, i * NUMBERS)
  const norms = [...sketches.map((sketch) => sketch.reduce((sum, x) => sum + x * x, 0)), 0]
  const keep = (i: number, j: number, dot: number) => {
    if (i < j && j < frames) (rows[i] as Float32Array)[j - i - 1] = Math.max(0, norms[i] + norms[j] - 2 * dot)
  }
  for (let i = 0; i < frames; i += 2)
    for (let j = i + 1; j < frames; j += 2) {
      let s = 0
      let t = 0
      let u = 0
      let v = 0
      for (let p = i * NUMBERS, q = j * NUMBERS, end = p + NUMBERS; p < end; p++, q++) {
        const a = all[p]
        const b = all[q]
        const c = all[p + NUMBERS]
        const d = all[q + NUMBERS]
        s += a * b
        t += a * d
        u += c * b
        v += c * d
      }
      keep(i, j, s)
      keep(i, j + 1, t)
      keep(i + 1, j, u)
      keep(i + 1, j + 1, v)
    }
  return rows
}

/** How far every two frames of a clip are apart, squared, by the Gram matrix (Schödl et al. 2000): row i holds those to i + 1, i + 2 … */
export class Distances {
  readonly frames: number
  /** Of each frame, in how many places it shows what is there at no other time. */
  readonly strange: Uint16Array
  private readonly rows: readonly Float32Array[]

  /** @throws RangeError for more frames than are compared */
  constructor(glimpses: readonly Glimpse[]) {
    const frames = glimpses.length
    if (frames > MAX_SEARCHED)
      throw new RangeError(
        `Loops are looked for in up to ${MAX_SEARCHED} frames; this clip has ${frames}. Crop it first.`,
      )
    this.frames = frames
    const sketches = sketchesOf(glimpses)
    this.strange = strangeIn(glimpses, besideOf(frames))
    this.rows = distancesOf(sketches)
  }

  /** Of two frames, squared. */
  at(i: number, j: number): number {
    if (i === j) return 0
    return (i < j ? this.from(i)[j - i - 1] : this.from(j)[i - j - 1]) as number
  }

  /** Of a frame to the next one, to the one after that … */
  from(i: number): Float32Array {
    return this.rows[i]
  }
}
