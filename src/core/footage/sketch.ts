import { type Picture, reducePicture, wordsOf } from '../image'
import { hash } from '../random'

/** Frames are looked at so many px wide. */
const SIDE = 64
/** Numbers by which a frame is told from others. */
const NUMBERS = 128

/** Where each value of a picture of a size goes, and by which sign: one of the numbers for each (Achlioptas 2003, one in each column). */
const projections = new Map<number, { readonly to: Uint8Array; readonly sign: Int8Array }>()

function projectionOf(length: number) {
  const known = projections.get(length)
  if (known) return known
  const [to, sign] = [new Uint8Array(length), new Int8Array(length)]
  for (let i = 0; i < length; i++) {
    const random = hash(length, i)
    to[i] = random % NUMBERS
    sign[i] = random >>> 31 ? 1 : -1
  }
  projections.set(length, { to, sign })
  return { to, sign }
}

/** So many px each way tell what a cell of the small picture holds. */
const TOLD_BY = 4

/** Of a large picture some pixels, evenly: as many as tell what it holds. */
function thinned(picture: Picture): Picture {
  const { width, height } = picture
  const every = Math.floor(Math.max(width, height) / (SIDE * TOLD_BY))
  if (every < 2) return picture
  const [w, h] = [Math.floor(width / every), Math.floor(height / every)]
  const words = wordsOf(picture)
  const out = new Int32Array(w * h)
  for (let y = 0, p = 0; y < h; y++) {
    // Each row begins elsewhere, so that what is striped is not taken for plain.
    const from = y * every * width + ((y * 7) % every)
    for (let x = 0; x < w; x++, p++) out[p] = words[from + x * every] as number
  }
  return { width: w, height: h, data: new Uint8ClampedArray(out.buffer) }
}

/**
 * A frame in few numbers: the distance of two of them is, within a few per cent, how far the frames are apart, as root mean square of 0 … 255 over colours on
 * black and alpha.
 */
export function sketchOf(picture: Picture): Float32Array {
  const { data } = reducePicture(thinned(picture), SIDE)
  const { to, sign } = projectionOf(data.length)
  const sketch = new Float32Array(NUMBERS)
  const scale = 1 / Math.sqrt(data.length)
  for (let p = 0; p < data.length; p += 4) {
    const alpha = data[p + 3] as number
    for (let k = 0; k < 4; k++) {
      const value = k === 3 ? alpha : ((data[p + k] as number) * alpha) / 255
      const i = to[p + k] as number
      sketch[i] = (sketch[i] as number) + scale * (sign[p + k] as number) * value
    }
  }
  return sketch
}

/** Of so many frames at the most all pairs are compared: some 150 MB. */
export const MOST_SEARCHED = 6000

/** How far every two frames of a clip are apart, squared, by the Gram matrix (Schödl et al. 2000): row i holds those to i + 1, i + 2 … */
export class Distances {
  readonly frames: number
  private readonly rows: readonly Float32Array[]

  /** @throws RangeError for more frames than are compared */
  constructor(sketches: readonly Float32Array[]) {
    if (sketches.length > MOST_SEARCHED)
      throw new RangeError(
        `Loops are looked for in up to ${MOST_SEARCHED} frames; this clip has ${sketches.length}. Crop it first.`,
      )
    this.frames = sketches.length
    const norms = sketches.map((sketch) => sketch.reduce((sum, x) => sum + x * x, 0))
    this.rows = sketches.map((a, i) => {
      const row = new Float32Array(sketches.length - i - 1)
      for (let j = i + 1; j < sketches.length; j++) {
        const b = sketches[j] as Float32Array
        let dot = 0
        for (let k = 0; k < NUMBERS; k++) dot += (a[k] as number) * (b[k] as number)
        row[j - i - 1] = Math.max(0, (norms[i] as number) + (norms[j] as number) - 2 * dot)
      }
      return row
    })
  }

  /** Of two frames, squared. */
  at(i: number, j: number): number {
    if (i === j) return 0
    return (i < j ? this.from(i)[j - i - 1] : this.from(j)[i - j - 1]) as number
  }

  /** Of a frame to the next one, to the one after that … */
  from(i: number): Float32Array {
    return this.rows[i] as Float32Array
  }
}
