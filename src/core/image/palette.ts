import { type Picture, wordsOf } from './picture'

export type Palette = readonly (readonly number[])[]

/** A mean error of palette colours that no eye makes out beside its neighbours, root mean square of 255. */
export const UNSEEN_ERROR = 1.5
/** A frame gets a palette of its own only if that leaves at most this share of its error: it costs bytes. */
const WORTH_IT = 0.7
/** Rounds of Lloyd's algorithm: what follows them changes errors by less than a hundredth. */
const ROUNDS = 5
/** At most this many different colours are counted separately; beyond that, similar ones are merged. */
const MAX_CELLS = 1 << 15
/** Stretches of one colour that are looked at in one picture: in a noisy one only some are. */
const MAX_RUNS = 150_000

/** Counts the colours of pictures. */
export class ColourCount {
  /** Where the sums of a colour begin, by its leading bits. */
  private cells = new Map<number, number>()
  /** Bits of each channel that are left out of account. */
  private shift = 0
  /** Sums of red, green and blue, and how many pixels, one cell after the other. */
  private sums: number[] = []
  private pixels = 0

  /** Counts the pixels of a picture; those under half opacity are left out where they stay transparent. */
  add(picture: Picture, transparent: boolean): void {
    const words = wordsOf(picture)
    const every = Math.ceil(runsOf(words) / MAX_RUNS)
    for (let start = 0, run = 0; start < words.length; run++) {
      const word = words[start]
      let end = start + 1
      while (end < words.length && words[end] === word) end++
      if (run % every === 0 && (!transparent || word >>> 24 >= 128))
        this.count(word & 255, (word >> 8) & 255, (word >> 16) & 255, end - start)
      start = end
    }
  }

  private count(r: number, g: number, b: number, times: number): void {
    this.gather(r * times, g * times, b * times, times)
    this.pixels += times
    if (this.cells.size <= MAX_CELLS) return
    const { sums } = this
    this.cells = new Map()
    this.sums = []
    this.shift++
    for (let i = 0; i < sums.length; i += 4) this.gather(...(sums.slice(i, i + 4) as [number, number, number, number]))
  }

  private gather(r: number, g: number, b: number, times: number): void {
    const { sums, shift } = this
    const key = (((r / times) >> shift) << 16) | (((g / times) >> shift) << 8) | ((b / times) >> shift)
    let at = this.cells.get(key)
    if (at === undefined) {
      at = sums.length
      this.cells.set(key, at)
      sums.push(0, 0, 0, 0)
    }
    sums[at] += r
    sums[at + 1] += g
    sums[at + 2] += b
    sums[at + 3] += times
  }

  /** The colours themselves if there are at most `most`; null if there are more. */
  few(most: number): number[][] | null {
    if (this.shift > 0 || this.cells.size > most) return null
    return [...this.cells.keys()].sort((a, b) => a - b).map((rgb) => [rgb >> 16, (rgb >> 8) & 255, rgb & 255])
  }

  /**
   * A palette of at most `most` colours: boxes of colours are split where that lowers their squared error most (Wan,
   * Prusinkiewicz & Wong 1990), then moved to the mean of the colours nearest to each (Lloyd 1982).
   */
  palette(most: number): number[][] {
    const all = this.counted()
    const boxes = [boxOf(all)]
    while (boxes.length < most) {
      const widest = boxes.reduce((best, box, i) => (box.error > boxes[best].error ? i : best), 0)
      const parts = split(boxes[widest])
      if (!parts) break
      boxes.splice(widest, 1, ...parts)
    }
    return refine(
      boxes.map(({ mean }) => mean),
      all,
    )
  }

  /** How far the colours lie from the nearest of a palette, root mean square over the channels, of 255. Entry 0 is no colour. */
  error(palette: Palette): number {
    const flat = Float64Array.from(palette.slice(1).flat())
    let sum = 0
    for (const [r, g, b, times] of this.counted()) sum += times * nearestColour(flat, r, g, b)[1]
    return this.pixels > 0 ? Math.sqrt(sum / (3 * this.pixels)) : 0
  }

  /** The colours that were counted, and how often. */
  private counted(): Counted[] {
    return Array.from({ length: this.sums.length / 4 }, (_, i) => {
      const [r, g, b, times] = this.sums.slice(4 * i, 4 * i + 4) as [number, number, number, number]
      return [r / times, g / times, b / times, times]
    })
  }
}

/** Stretches of one colour. */
function runsOf(words: Int32Array): number {
  let runs = 0
  let last = ~(words[0] ?? 0)
  for (let i = 0; i < words.length; i++) {
    const word = words[i]
    if (word !== last) runs++
    last = word
  }
  return runs
}

/** A colour and how many pixels have it. */
type Counted = readonly [r: number, g: number, b: number, times: number]
/** Colours that one colour is to stand for. */
interface Box {
  readonly cells: readonly Counted[]
  readonly mean: readonly number[]
  /** Squared error of the mean, over all pixels, and the channel that has most of it. */
  readonly error: number
  readonly axis: 0 | 1 | 2
}

function boxOf(cells: readonly Counted[]): Box {
  const total = cells.reduce((sum, [, , , times]) => sum + times, 0)
  const mean = ([0, 1, 2] as const).map((c) => cells.reduce((sum, cell) => sum + cell[c] * cell[3], 0) / total)
  const errors = ([0, 1, 2] as const).map((c) =>
    cells.reduce((sum, cell) => sum + cell[3] * (cell[c] - mean[c]) ** 2, 0),
  )
  const axis = errors.indexOf(Math.max(...errors)) as 0 | 1 | 2
  return { cells, mean, error: errors.reduce((a, b) => a + b, 0), axis }
}

/** A box in two, cut along its longest axis where the squared errors of both sum up to the least; null for a single colour. */
function split({ cells, axis }: Box): [Box, Box] | null {
  if (cells.length < 2) return null
  const sorted = [...cells].sort((a, b) => a[axis] - b[axis])
  const total = sorted.reduce((sum, cell) => sum + cell[axis] * cell[3], 0)
  const count = sorted.reduce((sum, [, , , times]) => sum + times, 0)
  // The error is least where what lies between the means is greatest: s²/n + (S − s)²/(N − n).
  let best = 1
  let most = -1
  let s = 0
  let n = 0
  for (let i = 0; i < sorted.length - 1; i++) {
    const cell = sorted[i]
    s += cell[axis] * cell[3]
    n += cell[3]
    const between = s ** 2 / n + (total - s) ** 2 / (count - n)
    if (between > most) {
      best = i + 1
      most = between
    }
  }
  return [boxOf(sorted.slice(0, best)), boxOf(sorted.slice(best))]
}

function refine(colours: Palette, cells: readonly Counted[]): number[][] {
  const flat = Float64Array.from(colours.flat())
  for (let round = 0; round < ROUNDS; round++) {
    const sums = new Float64Array((flat.length / 3) * 4)
    for (const [r, g, b, times] of cells) {
      const at = 4 * nearestColour(flat, r, g, b)[0]
      sums[at] += r * times
      sums[at + 1] += g * times
      sums[at + 2] += b * times
      sums[at + 3] += times
    }
    for (let i = 0; i < flat.length / 3; i++) {
      const times = sums[4 * i + 3]
      if (times > 0) for (let c = 0; c < 3; c++) flat[3 * i + c] = sums[4 * i + c] / times
    }
  }
  return Array.from({ length: flat.length / 3 }, (_, i) => [...flat.subarray(3 * i, 3 * i + 3)].map(Math.round))
}

/** Index of the nearest colour, squared distance in sRGB, and that distance. */
export function nearestColour(flat: Float64Array, r: number, g: number, b: number): [number, number] {
  let best = 0
  let least = Infinity
  for (let i = 0; i < flat.length; i += 3) {
    const dr = flat[i] - r
    const dg = flat[i + 1] - g
    const db = flat[i + 2] - b
    const distance = dr * dr + dg * dg + db * db
    if (distance < least) {
      least = distance
      best = i / 3
    }
  }
  return [best, least]
}

/** Whether a frame is to have a palette of its own, by the errors that were measured with the loop's and with its own. */
export const deservesOwn = (errorOfLoop: number, errorOfOwn: number): boolean =>
  errorOfLoop > UNSEEN_ERROR && errorOfOwn < WORTH_IT * errorOfLoop
