import { median } from '../../statistics'
import { aloneIn } from './alone'
import type { ClipCut, CutCosts } from './costs'
import { movesIn } from './ordinary'
import type { Distances } from './sketch'

/**
 * Largest cost of a cut, in steps. A cut that costs over one step must besides be far nearer than frames usually are.
 */
const MAX_COST = 4
const NEARER = { other: 0.35, whole: 0.55 }
/** Extra cost for each frame by which a cut differs from whole periods of the clip, and its limit. */
const BROKEN = { frame: 0.1, most: 0.35 }
/** A cut is left out if it costs at least `times` the best one and `besides` more. */
const WORSE = { times: 3, besides: 0.35 }
/**
 * Neighbours of a cut: at most `worse` more expensive, at most `longer` frames longer or shorter. At most `most` of
 * them are compared, their starts at least `apart` frames apart, with at most `frames` frames together.
 */
const NEAR = { worse: 0.3, longer: 1, most: 6, apart: 3, frames: 2400 }

/** A loop that was found, and others near it that are hardly worse, those first whose step over the seam is most like the steps beside it. */
export interface Found extends ClipCut {
  readonly near: readonly ClipCut[]
}

/** Whether two cuts show nearly the same. */
export const alike = (a: ClipCut, b: ClipCut): boolean =>
  Math.abs(a.length - b.length) <= Math.max(2, 0.04 * b.length) &&
  Math.abs(a.start - b.start) <= Math.max(4, b.length / 2)

/** How far each of the periods in a length is from whole, in frames; null if the length holds no number of periods. */
function brokenBy(length: number, period: number | null): number | null {
  if (period === null || length < period - 1) return null
  const times = Math.max(1, Math.round(length / period))
  const by = Math.abs(length - period * times)
  return by <= Math.max(1, 0.02 * length) ? by / times : null
}

const holdsFrame = ({ start, length }: Pick<ClipCut, 'start' | 'length'>, frame: number | null): boolean =>
  frame === null || (frame >= start && frame < start + length)

/** Cuts that are no costlier than any cut beside them, and cheap enough. */
function valleys({ from, least, costs, usual }: CutCosts, holds: number | null, period: number | null): ClipCut[] {
  const { step, apart } = usual
  const isGood = (cost: number, length: number) =>
    cost <= MAX_COST &&
    !(cost > 1 && cost * step > (brokenBy(length, period) === null ? NEARER.other : NEARER.whole) * apart)
  const isDeepest = (row: number, l: number, cost: number) => {
    for (let dr = -1; dr <= 1; dr++)
      for (let dl = -1; dl <= 1; dl++) if ((costs[row + dr]?.[l + dl] ?? Infinity) < cost) return false
    return true
  }
  const found: ClipCut[] = []
  for (const [row, line] of costs.entries())
    for (const [l, cost] of line.entries()) {
      if (!isGood(cost, least + l) || !isDeepest(row, l, cost)) continue
      const cut = { start: from + row, length: least + l, cost }
      if (holdsFrame(cut, holds)) found.push(cut)
    }
  return found
}

/** Rank of a cut: the lower, the better. A difference below a seventh of a step is not seen: the longer cut shows more. */
function ranking({ distances, usual }: CutCosts, period: number | null): (cut: ClipCut) => number {
  const alone = aloneIn(distances, usual)
  const broken = (length: number) =>
    period === null ? 0 : Math.min(BROKEN.most, BROKEN.frame * (brokenBy(length, period) ?? Infinity))
  return ({ start, length, cost }) => Math.max(0.15, cost) + alone(start, length) + broken(length)
}

/** Cuts near one that hold the same frame, and are hardly worse. */
function nearBy(
  cut: ClipCut,
  { from, least, costs, distances }: CutCosts,
  holds: number | null,
  rank: (cut: ClipCut) => number,
): ClipCut[] {
  const reach = Math.max(4, cut.length >> 1)
  const limit = rank(cut) + NEAR.worse
  const near: { readonly cut: ClipCut; readonly shows: number }[] = []
  for (let row = Math.max(0, cut.start - reach - from); row <= cut.start + reach - from; row++)
    for (let length = cut.length - NEAR.longer; length <= cut.length + NEAR.longer; length++) {
      const other = { start: from + row, length, cost: costs[row]?.[length - least] ?? Infinity }
      if (!(other.cost < Infinity) || (other.start === cut.start && length === cut.length)) continue
      if (!holdsFrame(other, holds) || rank(other) > limit) continue
      near.push({ cut: other, shows: leapOf(distances, other) })
    }
  near.sort((a, b) => a.shows - b.shows)
  const some: ClipCut[] = []
  const most = Math.min(NEAR.most, Math.floor(NEAR.frames / cut.length))
  for (const each of near) {
    if (some.length >= most) break
    if (some.every(({ start }) => Math.abs(start - each.cut.start) >= NEAR.apart)) some.push(each.cut)
  }
  return some
}

/**
 * Loops that lie in a clip, the best first; of nearly equal ones only the best. Empty if nothing moves or nothing comes
 * back. Loops that show something seen nowhere else in the clip come last.
 * @param most largest number of loops
 * @param holds frame that each loop must contain
 * @param period frames after which the whole clip comes back, if it does: cuts of whole periods are preferred
 */
export function findCuts(
  costs: CutCosts,
  most: number,
  holds: number | null = null,
  period: number | null = null,
): Found[] {
  const { distances, usual } = costs
  const found = valleys(costs, holds, period)
  const rank = ranking(costs, period)
  const ranks = new Map(found.map((cut) => [cut, rank(cut)]))
  const by = (cut: ClipCut) => ranks.get(cut) ?? Infinity
  found.sort((a, b) => by(a) - by(b) || b.length - a.length || a.cost - b.cost)
  // Beside good ones, poor ones are none; one in which nothing moves is not good.
  const best = found.toSorted((a, b) => a.cost - b.cost).find((cut) => movesIn(distances, usual, cut))
  const worst = WORSE.times * (best?.cost ?? 0) + WORSE.besides
  const kept: ClipCut[] = []
  for (const cut of found) {
    if (kept.length >= most) break
    if (cut.cost <= worst && !kept.some((other) => alike(other, cut)) && movesIn(distances, usual, cut)) kept.push(cut)
  }
  return kept.map((cut) => ({ ...cut, near: nearBy(cut, costs, holds, rank) }))
}

/** How many times as far the step over the seam of a cut goes as those beside it. */
function leapOf(distances: Distances, { start, length }: ClipCut): number {
  if (length < 3) return Infinity
  const step = (a: number, b: number) => Math.sqrt(distances.at(start + a, start + b))
  const beside = [step(length - 3, length - 2), step(length - 2, length - 1), step(0, 1), step(1, 2)]
  return step(length - 1, 0) / Math.max(1e-6, median(beside))
}
