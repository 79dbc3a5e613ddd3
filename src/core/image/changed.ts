import type { Box } from '../path'
import { type Picture, wordsOf } from './picture'

/** The least box that holds every pixel in which two pictures of one size differ; a single pixel where they are alike. */
export function changedBox(a: Picture, b: Picture): Box {
  const { width, height } = a
  const [from, to] = [wordsOf(a), wordsOf(b)]
  let [left, right, top, bottom] = [width, -1, height, -1]
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      if (from[y * width + x] === to[y * width + x]) continue
      if (x < left) left = x
      if (x > right) right = x
      if (y < top) top = y
      bottom = y
    }
  return right < 0
    ? { x: 0, y: 0, width: 1, height: 1 }
    : { x: left, y: top, width: right - left + 1, height: bottom - top + 1 }
}
