import type { Box } from '../path'
import { type Picture, wordsOf } from './picture'

/** The least box that holds every pixel in which two pictures of one size differ; a single pixel where they are alike. */
export const changedBox = (a: Picture, b: Picture): Box =>
  changedWords(a.width, wordsOf(a), wordsOf(b)) ?? { x: 0, y: 0, width: 1, height: 1 }

/** The same of pixels in words, row by row; null where they are alike. */
export function changedWords(width: number, a: Int32Array, b: Int32Array): Box | null {
  let first = 0
  while (first < a.length && a[first] === b[first]) first++
  if (first === a.length) return null
  let last = a.length - 1
  while (a[last] === b[last]) last--
  const [top, bottom] = [Math.floor(first / width), Math.floor(last / width)]
  let left = width
  let right = -1
  for (let y = top; y <= bottom; y++) {
    const row = y * width
    // Only what lies outside of the box so far can widen it.
    let x = 0
    while (x < left && a[row + x] === b[row + x]) x++
    if (x < left) left = x
    x = width - 1
    while (x > right && a[row + x] === b[row + x]) x--
    if (x > right) right = x
  }
  return { x: left, y: top, width: right - left + 1, height: bottom - top + 1 }
}
