import type { Picture } from '../../image'
import type { Ground } from '../../seam'

/** Colours over the ground that differ by at most this are taken for the same, of 255. */
const ALIKE_LEVELS = 4
/** Alpha that changes by no more than this stands still, of 255. */
const STEADY_ALPHA = 6

/** The reset at the seam is at least this multiple of the largest step within the clip. */
const RESET_RATIO = 2
/** Its way to the end of the clip is at least this share of all its steps: it does not go to and fro. */
const ONE_WAY_SHARE = 0.5

/** How the alpha of each pixel goes over some moments of a clip. */
class AlphaCourse {
  /** The frame after the one at which it was looked at last; 0 for none. */
  private readonly lastAt: Uint32Array
  private readonly first: Uint8Array
  private readonly last: Uint8Array
  /** The greatest step within the clip, by the frames that it took. */
  private readonly step: Uint8Array
  /** All steps within the clip together, up and down. */
  private readonly travel: Uint32Array
  readonly least: Uint8Array

  constructor(size: number) {
    this.lastAt = new Uint32Array(size)
    this.travel = new Uint32Array(size)
    this.first = new Uint8Array(size)
    this.last = new Uint8Array(size)
    this.step = new Uint8Array(size)
    this.least = new Uint8Array(size)
  }

  note(p: number, frame: number, alpha: number): void {
    const before = this.lastAt[p]
    if (before > 0) {
      const by = Math.abs(alpha - this.last[p])
      this.travel[p] += by
      this.step[p] = Math.max(this.step[p], Math.ceil(by / (frame + 1 - before)))
      this.least[p] = Math.min(this.least[p], alpha)
    } else {
      this.first[p] = alpha
      this.least[p] = alpha
    }
    this.last[p] = alpha
    this.lastAt[p] = frame + 1
  }

  /** Whether the alpha of a pixel rises or falls all along the clip, and jumps back at the seam. */
  isReset(p: number): boolean {
    const back = Math.abs(this.last[p] - this.first[p])
    return back > STEADY_ALPHA && back >= RESET_RATIO * this.step[p] && back >= ONE_WAY_SHARE * this.travel[p]
  }
}

/** Whether a series goes one way, step by step, and back at its end at once. */
function isReset(course: readonly number[]): boolean {
  const steps = course.slice(1).map((value, n) => Math.abs(value - course[n]))
  const back = Math.abs((course.at(-1) ?? 0) - (course[0] ?? 0))
  const travel = steps.reduce((sum, step) => sum + step, 0)
  return back > 0 && back >= RESET_RATIO * Math.max(0, ...steps) && back >= ONE_WAY_SHARE * travel
}

/**
 * An edge that grows, or shrinks, over the whole clip and is reset at its seam. Over its ground nobody sees it.
 * - Where it lies still: pixels that look the same over the ground in all frames, or like the ground itself, while their alpha goes one
 *   way and back at the seam. They are given the least of their alphas in every frame.
 * - Where it moves with what it lies about: what is left of half clear pixels that look like the ground. Where the sum of their alphas
 *   goes one way and back at the seam, it is brought down in every frame to the least of these sums.
 * Either way the colour becomes the one with which the pixel looks over the ground as it did.
 */
export class SameEdge {
  /** Of the moments at which nothing but the ground is seen, and of all moments. */
  private readonly clear: AlphaCourse
  private readonly whole: AlphaCourse
  /** Colour of each pixel over the ground in the first frame, and whether it ever differs. */
  private readonly look: Uint8ClampedArray
  private readonly changes: Uint8Array
  private frames = 0
  /** Of each frame, the sum of the alphas of half clear pixels that look like the ground and do not lie still. */
  private readonly sums: number[] = []
  private least = 0
  private moves = false

  constructor(
    private readonly size: number,
    private readonly ground: Ground,
  ) {
    this.clear = new AlphaCourse(size)
    this.whole = new AlphaCourse(size)
    this.look = new Uint8ClampedArray(3 * size)
    this.changes = new Uint8Array(size)
  }

  /** Channel c of pixel p over the ground. */
  private over(data: Picture['data'], p: number, c: number): number {
    const alpha = data[4 * p + 3]
    return (data[4 * p + c] * alpha + this.ground[c] * (255 - alpha)) / 255
  }

  private isGround(data: Picture['data'], p: number): boolean {
    for (let c = 0; c < 3; c++) if (Math.abs(this.over(data, p, c) - this.ground[c]) > ALIKE_LEVELS) return false
    return true
  }

  /** Takes in a picture of the source; they come in their order. */
  learn({ data }: Picture): void {
    for (let p = 0; p < this.size; p++) {
      const alpha = data[4 * p + 3]
      if (this.isGround(data, p)) this.clear.note(p, this.frames, alpha)
      this.whole.note(p, this.frames, alpha)
      for (let c = 0; c < 3; c++) {
        const look = this.over(data, p, c)
        if (this.frames === 0) this.look[3 * p + c] = look
        else if (Math.abs(look - this.look[3 * p + c]) > ALIKE_LEVELS) this.changes[p] = 1
      }
    }
    this.frames++
  }

  /** Takes in a picture once more, when all have been learned; in their order again. */
  learnMoving({ data }: Picture): void {
    this.sums.push(this.movingSum(data))
    this.least = Math.min(...this.sums)
    this.moves = this.sums.length === this.frames && isReset(this.sums)
  }

  private movingSum(data: Picture['data']): number {
    let sum = 0
    for (let p = 0; p < this.size; p++) {
      const alpha = data[4 * p + 3]
      if (alpha > 0 && alpha < 255 && !this.liesStill(data, p) && this.isGround(data, p)) sum += alpha
    }
    return sum
  }

  private liesStill(data: Picture['data'], p: number): boolean {
    return (!this.changes[p] && this.whole.isReset(p)) || (this.clear.isReset(p) && this.isGround(data, p))
  }

  /** The alpha that a pixel is given; as it is where it is no edge of that kind. @param share of a moving edge that is left */
  private alphaOf(data: Picture['data'], p: number, share: number): number {
    const alpha = data[4 * p + 3]
    if (!this.changes[p] && this.whole.isReset(p)) return this.whole.least[p]
    if (!this.isGround(data, p)) return alpha
    if (this.clear.isReset(p)) return this.clear.least[p]
    return alpha < 255 ? Math.round(alpha * share) : alpha
  }

  /** How much of a moving edge is left of a picture. */
  private shareOf(data: Picture['data']): number {
    const sum = this.movingSum(data)
    return sum > 0 ? Math.min(1, this.least / sum) : 1
  }

  /** A picture of the source with the edge that all of them have. */
  edit({ width, height, data }: Picture): Picture {
    const out = new Uint8ClampedArray(data)
    const share = this.moves ? this.shareOf(data) : 1
    for (let p = 0; p < width * height; p++) {
      const alpha = this.alphaOf(data, p, share)
      if (alpha === data[4 * p + 3]) continue
      for (let c = 0; c < 3; c++) {
        const ground = this.ground[c]
        out[4 * p + c] = alpha === 0 ? 0 : ground + ((this.over(data, p, c) - ground) * 255) / alpha
      }
      out[4 * p + 3] = alpha
    }
    return { width, height, data: out }
  }
}
