import type { Picture } from '../image'
import { hash } from '../random'
import { smoothstep } from '../smoothstep'

/** A patch: where it begins, its lines, and how far it reaches over those before and after it; where it is taken from. */
export interface Patch {
  readonly top: number
  readonly rows: number
  readonly over: number
  readonly under: number
  readonly x: number
  readonly y: number
}

/** Places of the picture that are tried for each patch. */
const TRIED = 160

/** A picture moved on by half, so that its edge lies in its middle. */
const halfOn = (picture: Picture): Picture => movedOn(picture, picture.width >> 1, 0)

/** A picture moved on by half in both directions, so that its edges meet in its middle. */
export const movedByHalf = (picture: Picture): Picture => movedOn(picture, picture.width >> 1, picture.height >> 1)

function movedOn({ width, height, data }: Picture, across: number, down: number): Picture {
  const out = new Uint8ClampedArray(data.length)
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const from = 4 * (((y + down) % height) * width + ((x + across + width) % width))
      out.set(data.subarray(from, from + 4), 4 * (y * width + x))
    }
  return { width, height, data: out }
}

/** Where the band about the edge lies in a picture that is moved on by half, and how far patches reach beyond it. */
const bandOf = (width: number, band: number) => {
  const seam = width - (width >> 1)
  return { seam, left: seam - (band >> 1), margin: Math.max(2, band >> 2) }
}

/**
 * The patches that lay the band about an edge anew, each of many tried at random the one that fits what lies around it best (after Barnes et al.
 * 2009), in all of some pictures together.
 */
export function patchesOf(whole: readonly Picture[], band: number): Patch[] {
  const pictures = whole.map(halfOn)
  const { width, height } = pictures[0]
  const { seam, left, margin } = bandOf(width, band)
  const tall = Math.min(height, Math.max(8, band))
  const patches: Patch[] = []
  // Patches already laid are context for the next one.
  const laid = pictures.map(({ data, ...size }) => ({ ...size, data: data.slice() }))
  for (let top = 0; top < height; top += tall) {
    const rows = Math.min(tall, height - top)
    // The last patch meets the first one, as the picture meets itself below.
    const over = top === 0 ? 0 : Math.min(margin, top)
    const under = top > 0 && top + rows >= height ? margin : 0
    const row = (y: number) => ((top + y) % height) * width
    const error = (sx: number, sy: number): number => {
      let sum = 0
      for (let y = -over; y < rows + under; y += 2)
        for (let x = -margin; x < band + margin; x += 2) {
          const outside = x < 0 || x >= band || y < 0 || y >= rows
          if (!outside) continue
          const at = 4 * (row(y) + left + x)
          const there = 4 * ((sy + y) * width + sx + x)
          for (const [n, { data }] of laid.entries())
            for (let c = 0; c < 3; c++) {
              const d = data[at + c] - pictures[n].data[there + c]
              sum += d * d
            }
        }
      return sum
    }
    let best: { x: number; y: number; error: number } | null = null
    for (let i = 0; i < TRIED; i++) {
      const room = width - band - 2 * margin
      const x = margin + (hash(top, i, 1) % Math.max(1, room))
      const y = over + (hash(top, i, 2) % Math.max(1, height - rows - over - under + 1))
      // A path across the edge itself is not allowed.
      if (x + band + margin > seam && x - margin < seam) continue
      const found = error(x, y)
      if (!best || found < best.error) best = { x, y, error: found }
    }
    if (!best) continue
    const patch: Patch = { top, rows, over, under, x: best.x, y: best.y }
    patches.push(patch)
    for (const [n, { data }] of laid.entries()) layPatch(data, pictures[n].data, patch, band, width, height)
  }
  return patches
}

/** Lays a patch, fading where it meets what is there. */
function layPatch(
  data: Uint8ClampedArray,
  source: Uint8ClampedArray,
  { top, rows, over, under, x: fromX, y: fromY }: Patch,
  band: number,
  width: number,
  height: number,
): void {
  const { left, margin } = bandOf(width, band)
  for (let y = -over; y < rows + under; y++)
    for (let x = -margin; x < band + margin; x++) {
      const share = Math.min(
        1,
        Math.min((x + margin + 1) / (margin + 1), (band + margin - x) / (margin + 1)),
        y < 0 ? (y + over + 1) / (over + 1) : y >= rows ? (rows + under - y) / (under + 1) : 1,
      )
      const t = smoothstep(Math.max(0, share))
      const at = 4 * (((top + y) % height) * width + left + x)
      const there = 4 * ((fromY + y) * width + fromX + x)
      for (let c = 0; c < 4; c++) data[at + c] = t * source[there + c] + (1 - t) * data[at + c]
    }
}

/** The edge is brought to the middle, and the band about it laid anew from patches of the picture itself. */
export function filled(picture: Picture, band: number, patches: readonly Patch[]): Picture {
  const { width, height } = picture
  const moved = halfOn(picture)
  const data = moved.data.slice()
  for (const patch of patches) layPatch(data, moved.data, patch, band, width, height)
  return movedOn({ width, height, data }, -(width >> 1), 0)
}
