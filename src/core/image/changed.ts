import type { Box } from '../path'
import { type Picture, wordsOf } from './picture'

/** The least box that holds every pixel in which two pictures of one size differ; a single pixel where they are alike. */
export const changedBox = (a: Picture, b: Picture): Box =>
  changedWords(a.width, wordsOf(a), wordsOf(b)) ?? { x: 0, y: 0, width: 1, height: 1 }

/**
 * The unchanged pixels of a part are left out if they are at least this share of it: only then are fewer bytes stored.
 */
const WORTH_LEAVING = 0.5

/** A part of a picture in which every pixel that is as it was before is clear; null where too few of them are for that to be of use. */
export function changedPixels(before: Picture, picture: Picture, { x, y, width, height }: Box): Picture | null {
  const was = wordsOf(before)
  const is = wordsOf(picture)
  const words = new Int32Array(width * height)
  let same = 0
  for (let row = 0; row < height; row++)
    for (let column = 0; column < width; column++) {
      const at = (y + row) * picture.width + x + column
      if (was[at] === is[at]) same++
      else words[row * width + column] = is[at]
    }
  return same < WORTH_LEAVING * words.length ? null : { width, height, data: new Uint8ClampedArray(words.buffer) }
}

/** The box of what differs, of pixels in words, row by row; null where they are alike. */
export function changedWords(width: number, a: Int32Array, b: Int32Array): Box | null {
  let first = 0
  while (first < a.length && a[first] === b[first]) first++
  if (first === a.length) return null
  let last = a.length - 1
  while (a[last] === b[last]) last--
  const top = Math.floor(first / width)
  const bottom = Math.floor(last / width)
  let left = width
  let right = -1
  for (let y = top; y <= bottom; y++) {
    const row = y * width
    // Only pixels outside the box found until now can widen it.
    let x = 0
    while (x < left && a[row + x] === b[row + x]) x++
    if (x < left) left = x
    x = width - 1
    while (x > right && a[row + x] === b[row + x]) x--
    if (x > right) right = x
  }
  return { x: left, y: top, width: right - left + 1, height: bottom - top + 1 }
}
