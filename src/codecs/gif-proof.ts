import { type Picture, reducePicture } from '@/core/image'
import { descriptorOf, judgeDescribed, judgedSide, type SeamReport } from '@/core/seam'
import { decodeGif } from './gif-decode'

/** What was meant to be written. */
export interface GifPromise {
  readonly width: number
  readonly height: number
  readonly delaysCs: readonly number[]
  /** The frame that was drawn, by its number in the file. */
  readonly frame: (n: number) => Picture | Promise<Picture>
  readonly transparent: boolean
}

/** One thing that was checked: what the file should say and what it says. */
export interface ProofLine {
  readonly what: string
  readonly expected: string
  readonly found: string
  readonly holds: boolean
}

/** The check of a file, made by reading it back. */
export interface Proof {
  readonly lines: readonly ProofLine[]
  readonly holds: boolean
  readonly bytes: number
  readonly totalCs: number
  readonly seam: SeamReport
  /** Mean and greatest difference of the file's pixels from the drawn ones, 0 … 255. */
  readonly meanError: number
  readonly worstError: number
}

/**
 * Reads a GIF back, with a decoder that is not its encoder, and holds it against what was meant to be written.
 * @param progress is told how many frames have been compared, and may throw to stop
 * @throws GifError when the file cannot be read at all.
 */
export async function proveGif(
  bytes: Uint8Array,
  promise: GifPromise,
  progress: (frames: number) => void | Promise<void> = () => {},
): Promise<Proof> {
  const file = decodeGif(bytes)
  const side = judgedSide(file.delaysCs.length)
  const described = []
  let [sum, count, worst, n] = [0, 0, 0, 0]
  const sameSize = file.width === promise.width && file.height === promise.height
  for (const frame of file.frames()) {
    described.push(descriptorOf(reducePicture(frame, side)))
    if (sameSize && n < promise.delaysCs.length) {
      const error = pixelError(frame, await promise.frame(n), promise.transparent)
      sum += error.sum
      count += error.count
      worst = Math.max(worst, error.worst)
    }
    n++
    await progress(n)
  }
  const seam = judgeDescribed(described)
  const total = (delays: readonly number[]) => delays.reduce((a, b) => a + b, 0)
  const line = (what: string, expected: string | number, found: string | number): ProofLine => ({
    what,
    expected: String(expected),
    found: String(found),
    holds: expected === found,
  })
  const size = (w: number, h: number) => `${w} × ${h} px`
  const seconds = (cs: number) => `${(cs / 100).toFixed(2)} s`
  const list = (delays: readonly number[]) => summarise(delays)
  const lines = [
    line('frames', promise.delaysCs.length, file.delaysCs.length),
    line('size', size(promise.width, promise.height), size(file.width, file.height)),
    line('time of one loop', seconds(total(promise.delaysCs)), seconds(total(file.delaysCs))),
    {
      ...line('delays', list(promise.delaysCs), list(file.delaysCs)),
      holds:
        promise.delaysCs.length === file.delaysCs.length && promise.delaysCs.every((d, i) => d === file.delaysCs[i]),
    },
    line('repeats', 'for ever', file.playsForever ? 'for ever' : 'not for ever'),
    {
      what: 'seam',
      expected: 'closes, or still',
      found: seam.verdict.replaceAll('-', ' '),
      holds: seam.verdict === 'closes' || seam.verdict === 'still',
    },
  ]
  return {
    lines,
    holds: lines.every(({ holds }) => holds),
    bytes: bytes.length,
    totalCs: total(file.delaysCs),
    seam,
    meanError: count > 0 ? sum / count : 0,
    worstError: worst,
  }
}

/** Delays in words: `60 × 0.03 s`, or `20 × 0.03 s, 40 × 0.04 s` where they take turns. */
function summarise(delays: readonly number[]): string {
  const counts = new Map<number, number>()
  for (const delay of delays) counts.set(delay, (counts.get(delay) ?? 0) + 1)
  return [...counts]
    .sort(([a], [b]) => a - b)
    .map(([delay, times]) => `${times} × ${(delay / 100).toFixed(2)} s`)
    .join(', ')
}

/** Differences of the colours where a picture shows any; a wrong transparency counts as the greatest one. */
function pixelError(found: Picture, drawn: Picture, transparent: boolean) {
  let [sum, count, worst] = [0, 0, 0]
  const add = (error: number) => {
    sum += error
    count++
    if (error > worst) worst = error
  }
  for (let i = 0; i < drawn.data.length; i += 4) {
    const clear = transparent && (drawn.data[i + 3] as number) < 128
    const foundClear = (found.data[i + 3] as number) < 128
    if (clear !== foundClear) add(255)
    else if (!clear)
      for (let c = 0; c < 3; c++) add(Math.abs((found.data[i + c] as number) - (drawn.data[i + c] as number)))
  }
  return { sum, count, worst }
}
