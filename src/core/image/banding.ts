import { LINEAR_LIGHT, putOklab } from './light'
import type { Picture } from './picture'

/** Steps that show in what ought to be a smooth way from one colour to another. */
export interface Banding {
  /** How much of the picture lies in bands, 0 … 1. */
  readonly share: number
  /** The largest step between two bands, in OKLab. */
  readonly step: number
}

/** A step between two even areas is seen from here on (in OKLab; one step of 8 bits in grey is 0.003 to 0.009, the darker the more). */
const SEEN = 0.0033
/** A step above this is an edge of the picture, not a band. */
const EDGE = 0.12
/** Areas narrower than this are not seen as even, px. */
const NARROWEST = 6
/** The same where the step is a single one of 8 bits, px. */
const NARROWEST_FINE = 10
/** Banding is reported above this share of the picture. */
export const BANDING_SAID = 0.03

/** OKLab of a pixel. */
function labAt(into: Float32Array, { data }: Picture, i: number): void {
  const light = (c: number) => LINEAR_LIGHT[data[4 * i + c]]
  putOklab(into, 0, light(0), light(1), light(2))
}

/**
 * Where a picture, as a file shows it, steps between even areas although what it was made from goes on smoothly: each boundary in rows and
 * in columns whose source differs there by half as much at the most, or by a single step of 8 bits. Dithering leaves no even areas.
 * @throws RangeError where the sizes differ
 */
export function bandingOf(shown: Picture, source: Picture): Banding {
  const { width, height } = shown
  if (source.width !== width || source.height !== height)
    throw new RangeError(`pictures of ${width}×${height} and ${source.width}×${source.height} px cannot be compared`)
  const rows = along(shown, source, { count: height, length: width, line: width, step: 1 })
  const columns = along(shown, source, { count: width, length: height, line: 1, step: width })
  return { share: Math.max(rows.share, columns.share), step: Math.max(rows.step, columns.step) }
}

interface Lines {
  readonly count: number
  readonly length: number
  readonly line: number
  readonly step: number
}

function along(shown: Picture, source: Picture, { count, length, line, step }: Lines): Banding {
  const alike = (p: number, q: number) => {
    for (let c = 0; c < 4; c++) if (shown.data[4 * p + c] !== shown.data[4 * q + c]) return false
    return true
  }
  const [a, b, c, d] = [0, 0, 0, 0].map(() => new Float32Array(3)) as [
    Float32Array,
    Float32Array,
    Float32Array,
    Float32Array,
  ]
  const apart = (x: Float32Array, y: Float32Array) => Math.hypot(x[0] - y[0], x[1] - y[1], x[2] - y[2])
  const isBand = (p: number, q: number, narrower: number): number => {
    if (shown.data[4 * p + 3] < 255 || shown.data[4 * q + 3] < 255) return 0
    labAt(a, shown, p)
    labAt(b, shown, q)
    const seen = apart(a, b)
    if (seen < SEEN || seen > EDGE) return 0
    labAt(c, source, p)
    labAt(d, source, q)
    if (apart(c, d) <= seen / 2) return seen
    if (narrower < NARROWEST_FINE) return 0
    for (let k = 0; k < 3; k++) if (Math.abs(source.data[4 * p + k] - source.data[4 * q + k]) > 1) return 0
    return seen
  }
  let banded = 0
  let most = 0
  for (let n = 0; n < count; n++) {
    const at = (k: number) => n * line + k * step
    let start = 0
    let before = 0
    let marked = false
    while (start < length) {
      let end = start + 1
      while (end < length && alike(at(start), at(end))) end++
      const wide = end - start
      const gap =
        start > 0 && wide >= NARROWEST && before >= NARROWEST
          ? isBand(at(start - 1), at(start), Math.min(wide, before))
          : 0
      if (gap > 0) {
        most = Math.max(most, gap)
        banded += wide + (marked ? 0 : before)
      }
      before = wide
      marked = gap > 0
      start = end
    }
  }
  return { share: banded / Math.max(1, count * length), step: most }
}
