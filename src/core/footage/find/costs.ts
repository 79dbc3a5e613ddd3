import { type Ordinary, ordinary, STILL_STEP } from './ordinary'
import type { Distances } from './sketch'

/** A loop inside a clip: its first frame and its length, in frames. */
export interface ClipCut {
  readonly start: number
  readonly length: number
  /** How far what comes over its seam lies from what would be expected there, in steps of the clip: at 1 it is off by no more than a step. */
  readonly cost: number
}

/** Bounds on the loops that are searched for. */
export interface CutBounds {
  readonly least: number
  readonly most: number
  /** The first frame that may be in it, and the first that may not any more. */
  readonly from: number
  readonly to: number
}

/**
 * Costs of continuing with frame i after frame j − 1, for each j from i + least on: the distance to the frame that
 * follows j − 1 in the clip, or of the frame before i, whichever is less, plus how much the direction of motion bends
 * there, so that nothing goes back the way it came.
 */
function costsFrom(
  distances: Distances,
  i: number,
  least: number,
  lengths: number,
  { step, bend }: Ordinary,
): Float32Array {
  const costs = new Float32Array(Math.max(0, lengths))
  const { frames } = distances
  const own = distances.from(i)
  const next = distances.from(i + 1)
  const previous = i > 0 ? distances.from(i - 1) : null
  const first = own[0]
  // The hottest loop of the search: nothing is made or called in it. own[k] is how far frame i lies from i + k + 1.
  for (let l = 0; l < costs.length; l++) {
    const length = least + l
    const end = own[length - 2]
    const after = i + length < frames ? own[length - 1] : Infinity
    const before = previous ? previous[length - 1] : Infinity
    const nearest = Math.min(after, before)
    // Of the whole clip neither is there: its seam is to be a step as others are.
    const apart = nearest < Infinity ? nearest : (Math.sqrt(end) - step) ** 2
    const lastStep = distances.from(i + length - 2)[0]
    const comesIn = 2 * lastStep + 2 * end - (length > 2 ? own[length - 3] : 0)
    const goesOn = 2 * end + 2 * first - (length > 2 ? next[length - 3] : 0)
    const over = Math.max(comesIn, goesOn) - bend
    costs[l] = Math.sqrt(Math.max(over, apart)) / step
  }
  return costs
}

/** Costs of every cut of a clip within the bounds. */
export interface CutCosts {
  readonly from: number
  readonly least: number
  readonly longest: number
  /** By its first frame, from the first that may be, and by its length, from the least on; none where nothing moves. */
  readonly costs: readonly Float32Array[]
  readonly usual: Ordinary
  readonly distances: Distances
}

/** Works out what cuts of a clip cost. */
export function cutCosts(distances: Distances, wanted: CutBounds): CutCosts {
  const usual = ordinary(distances)
  const from = Math.max(0, wanted.from)
  const to = Math.min(distances.frames, wanted.to)
  const least = Math.max(2, wanted.least)
  const widest = Math.min(wanted.most, to - from)
  const starts = usual.step < STILL_STEP ? 0 : Math.max(0, to - from - least + 1)
  const costs = Array.from({ length: starts }, (_, row) => {
    const i = from + row
    const lengths = Math.max(0, Math.min(widest, to - i) - least + 1)
    return costsFrom(distances, i, least, lengths, usual)
  })
  return { from, least, longest: Math.max(least, widest), costs, usual, distances }
}

/** Costs of the cuts of a clip as a picture: starts across, lengths down. */
export interface CutMap {
  readonly across: number
  readonly down: number
  /** The best cut of each cell, row by row; null where there is none. */
  readonly cells: readonly (ClipCut | null)[]
}

/** The map of a clip in no more cells than are asked for. */
export function cutMap(
  { from, least, longest, costs }: CutCosts,
  most: { readonly across: number; readonly down: number },
): CutMap {
  const across = Math.min(most.across, Math.max(1, costs.length))
  const down = Math.min(most.down, longest - least + 1)
  const cells = new Array<ClipCut | null>(across * down).fill(null)
  for (const [row, line] of costs.entries())
    for (const [l, cost] of line.entries()) {
      const cell = Math.floor((l * down) / (longest - least + 1)) * across + Math.floor((row * across) / costs.length)
      if (cost < (cells[cell]?.cost ?? Infinity)) cells[cell] = { start: from + row, length: least + l, cost }
    }
  return { across, down, cells }
}
