import { labsOf, type Picture } from '../image'

/** How the edge of a mask shows in a picture. */
export interface MaskEdge {
  /** How much of the edge steps where the picture without it does not, 0 … 1. */
  readonly share: number
  /** The usual step of those places, in OKLab. */
  readonly step: number
  /** Where they are on average, as shares of the width and the height. */
  readonly at: { readonly x: number; readonly y: number }
}

/** A mask has an edge where it changes by at least this from a pixel to the next; softer masks fade. */
const STEEP = 0.12
/** px to both sides of an edge between which a step is looked for. */
const REACH = 2
/** A step in OKLab that the mask alone makes and that is seen. */
const SEEN = 0.025
/** Of an edge of fewer pixels nothing is said, nor where less of it is seen than this. */
const MIN_EDGE_PX = 12
const SHARE_SAID = 0.06

/**
 * Where the edge of a mask is seen: places where it is steep and the picture steps across it, by more than it does without what is masked.
 * @param whole the picture as it is; `without` what is masked; `mask` alone, by its alpha: all of one size
 * @returns null where nothing of the edge is seen
 */
export function maskEdge(whole: Picture, without: Picture, mask: Picture): MaskEdge | null {
  const { width, height } = whole
  const shown = labsOf(whole)
  const ground = labsOf(without)
  const alpha = (x: number, y: number) => mask.data[4 * (y * width + x) + 3] / 255
  const step = (labs: Float32Array, p: number, q: number) =>
    Math.hypot(labs[4 * p] - labs[4 * q], labs[4 * p + 1] - labs[4 * q + 1], labs[4 * p + 2] - labs[4 * q + 2])
  let edge = 0
  let seen = 0
  let sum = 0
  let sumX = 0
  let sumY = 0
  for (let y = REACH; y < height - REACH; y++)
    for (let x = REACH; x < width - REACH; x++) {
      const dx = (alpha(x + 1, y) - alpha(x - 1, y)) / 2
      const dy = (alpha(x, y + 1) - alpha(x, y - 1)) / 2
      const steep = Math.hypot(dx, dy)
      if (steep < STEEP) continue
      edge++
      const ox = Math.round((dx / steep) * REACH)
      const oy = Math.round((dy / steep) * REACH)
      const p = (y + oy) * width + x + ox
      const q = (y - oy) * width + x - ox
      const more = step(shown, p, q) - step(ground, p, q)
      if (more < SEEN) continue
      seen++
      sum += more
      sumX += x
      sumY += y
    }
  if (edge < MIN_EDGE_PX || seen < SHARE_SAID * edge) return null
  return { share: seen / edge, step: sum / seen, at: { x: sumX / seen / width, y: sumY / seen / height } }
}
