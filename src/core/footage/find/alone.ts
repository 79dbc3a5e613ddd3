import { median } from '../../statistics'
import { type Ordinary, STILL_STEP } from './ordinary'
import { besideOf, type Distances } from './sketch'
import { passesIn } from './strange'

/**
 * A frame is alone if its distance to all others is at least `times` the usual one and `steps` more. In a cut with a
 * greater share of such frames than `share`, nothing merely passes.
 */
const ALONE = { times: 1.6, steps: 1, share: 0.3 }

/**
 * A clip comes back on the whole if most frames have another frame, elsewhere in it, within this distance, in steps.
 */
const RECURRING_STEPS = 1.5

/**
 * Extra cost of a cut in which something passes, and the largest extra cost of one whose frames are far from all
 * others: it is a loop all the same.
 */
const PASSING_COST = 0.5
const MAX_FAR_COST = 0.2
/** How much more a cut costs, given by its start and length, for what no other frame of the clip shows but those beside it: by how far each is from all others, in steps, or by what only passes in it. */
export function aloneIn(distances: Distances, { step }: Ordinary): (start: number, length: number) => number {
  const { frames } = distances
  const beside = besideOf(frames)
  const nearest = Array.from({ length: frames }, (_, n) => {
    let least = Infinity
    for (let m = 0; m < frames; m++) if (Math.abs(m - n) > beside) least = Math.min(least, distances.at(n, m))
    return Math.sqrt(least)
  })
  const usual = median(nearest.filter(Number.isFinite))
  // Where most of a clip never comes back, what does not either is nothing that only passes.
  const recurs = usual <= RECURRING_STEPS * step
  const sums = [0]
  const counts = [0]
  const passing = [0]
  const passes = passesIn(distances.strange)
  for (const [n, each] of nearest.entries()) {
    const over = (each - ALONE.times * usual) / Math.max(step, STILL_STEP) - ALONE.steps
    const is = recurs && Number.isFinite(over) && over > 0
    sums.push(sums[n] + (is ? over : 0))
    counts.push(counts[n] + (is ? 1 : 0))
    passing.push(passing[n] + (passes[n] ? 1 : 0))
  }
  const within = (of: readonly number[], start: number, length: number) => of[start + length] - of[start]
  return (start, length) => {
    if (within(passing, start, length) > 0) return PASSING_COST
    // A longer stretch does not pass: the clip shows it there.
    return within(counts, start, length) > ALONE.share * length
      ? 0
      : Math.min(MAX_FAR_COST, within(sums, start, length))
  }
}
