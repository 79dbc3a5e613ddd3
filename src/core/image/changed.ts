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

/**
 * What has changed of a part of a picture, the rest clear: laid over the picture before, it gives the picture. Null where that
 * cannot be, since something that has changed is not opaque.
 */
export function changesOnly(before: Picture, picture: Picture, part: Box): Picture | null {
  const [was, is] = [wordsOf(before), wordsOf(picture)]
  const data = new Uint8ClampedArray(part.width * part.height * 4)
  const words = new Int32Array(data.buffer)
  for (let y = 0; y < part.height; y++) {
    const row = (part.y + y) * picture.width + part.x
    for (let x = 0; x < part.width; x++) {
      const word = is[row + x] as number
      if (word === was[row + x]) continue
      if (word >>> 24 !== 255) return null
      words[y * part.width + x] = word
    }
  }
  return { width: part.width, height: part.height, data }
}
