import { type Picture, reducePicture, wordsOf } from '../../image'

/** Width to which frames are reduced, px. */
const GLIMPSE_PX = 64
/** A cell of the small picture is sampled at this many pixels each way. */
const SAMPLES_PER_SIDE = 4
const SAMPLES = SAMPLES_PER_SIDE * SAMPLES_PER_SIDE

/** A frame, small: red, green and blue on black, and alpha, of each pixel, row by row. What it is told from others by. */
export interface Glimpse {
  readonly width: number
  readonly data: Uint8Array
}

/** A glimpse of a picture; of one of which no more than every other px would be looked at each way some are, evenly, as many in each cell. */
export function glimpseOf(picture: Picture): Glimpse {
  const { width, height } = picture
  return Math.max(width, height) < 2 * GLIMPSE_PX * SAMPLES_PER_SIDE
    ? onBlack(reducePicture(picture, GLIMPSE_PX))
    : sampled(picture)
}

function onBlack({ width, data }: Picture): Glimpse {
  const glimpse = new Uint8Array(data.length)
  for (let p = 0; p < data.length; p += 4) {
    const alpha = data[p + 3]
    for (let c = 0; c < 3; c++) glimpse[p + c] = (data[p + c] * alpha) / 255
    glimpse[p + 3] = alpha
  }
  return { width, data: glimpse }
}

function sampled(picture: Picture): Glimpse {
  const { width, height } = picture
  const factor = Math.max(width, height) / GLIMPSE_PX
  const w = Math.max(1, Math.round(width / factor))
  const h = Math.max(1, Math.round(height / factor))
  const words = wordsOf(picture)
  const places = (size: number, count: number) =>
    Int32Array.from({ length: count * SAMPLES_PER_SIDE }, (_, i) =>
      Math.floor(((i + 0.5) * size) / (count * SAMPLES_PER_SIDE)),
    )
  const xs = places(width, w)
  const ys = places(height, h)
  const every = Math.max(1, Math.floor(width / (w * SAMPLES_PER_SIDE)))
  // Each row begins elsewhere, so that what is striped is not taken for plain.
  const rows = ys.map((y, i) => y * width + ((7 * i) % every) - (every >> 1))
  const glimpse = new Uint8Array(w * h * 4)
  for (let y = 0, to = 0; y < h; y++)
    for (let x = 0; x < w; x++, to += 4) {
      // Two channels are summed in one word: sixteen of them stay below its half.
      let redBlue = 0
      let greenAlpha = 0
      for (let k = 0; k < SAMPLES_PER_SIDE; k++) {
        const row = rows[y * SAMPLES_PER_SIDE + k]
        for (let i = x * SAMPLES_PER_SIDE; i < (x + 1) * SAMPLES_PER_SIDE; i++) {
          const word = words[row + xs[i]]
          redBlue += word & 0xff00ff
          greenAlpha += (word >>> 8) & 0xff00ff
        }
      }
      if (greenAlpha >>> 16 === SAMPLES * 255) {
        glimpse[to] = (redBlue & 0xffff) / SAMPLES
        glimpse[to + 1] = (greenAlpha & 0xffff) / SAMPLES
        glimpse[to + 2] = (redBlue >>> 16) / SAMPLES
        glimpse[to + 3] = 255
      } else clearIn(glimpse, to, words, rows.subarray(y * SAMPLES_PER_SIDE), xs.subarray(x * SAMPLES_PER_SIDE))
    }
  return { width: w, data: glimpse }
}

/** A cell of which some is clear: each px by its alpha. */
function clearIn(glimpse: Uint8Array, to: number, words: Int32Array, rows: Int32Array, xs: Int32Array): void {
  const sums = [0, 0, 0, 0]
  for (let k = 0; k < SAMPLES_PER_SIDE; k++)
    for (let i = 0; i < SAMPLES_PER_SIDE; i++) {
      const word = words[rows[k] + xs[i]]
      const alpha = word >>> 24
      for (let c = 0; c < 3; c++) sums[c] += (((word >>> (8 * c)) & 255) * alpha) / 255
      sums[3] += alpha
    }
  for (const [c, sum] of sums.entries()) glimpse[to + c] = sum / SAMPLES
}
