import { median } from '../../statistics'
import { MOVING_STEPS, ordinary, STILL_STEP } from './ordinary'
import type { Distances } from './sketch'

/**
 * Largest distance of frames one period apart, as a share of that between any two frames; both squared, without grain.
 * A shorter period is preferred if it is as good within the second value.
 */
const PERIOD_NEARER = 0.25
const AS_GOOD = 0.1

/** After how many frames all of a clip comes back, which it does at least twice; null where it does not. */
export function clipPeriod(distances: Distances): number | null {
  const { frames } = distances
  const { step, apart, grain } = ordinary(distances)
  const spread = apart * apart - grain * grain
  if (step < STILL_STEP || spread < (MOVING_STEPS - 1) * grain * grain) return null
  const apartBy = (lag: number) => Array.from({ length: Math.max(0, frames - lag) }, (_, i) => distances.at(i, i + lag))
  const shares = Array.from({ length: (frames >> 1) + 2 }, (_, lag) =>
    // Something that passes once is far from everything: the median ignores it.
    lag < 1 || lag >= frames ? Infinity : Math.max(0, median(apartBy(lag)) - grain * grain) / spread,
  )
  const at = (lag: number) => shares[lag]
  // Frames next to each other are alike, too: a period comes after they have been apart.
  let lag = 1
  while (lag <= frames >> 1 && at(lag) < 0.5) lag++
  const valleys: number[] = []
  const mean = (of: number) => apartBy(of).reduce((sum, each) => sum + each, 0) / (frames - of)
  for (; lag <= frames >> 1; lag++) {
    if (at(lag) > PERIOD_NEARER) continue
    // Where most frames are alike for several lags, all of them tell which one it is.
    let best = lag
    let least = mean(lag)
    for (; lag + 1 <= frames >> 1 && at(lag + 1) <= PERIOD_NEARER; lag++) {
      const next = mean(lag + 1)
      if (next < least) {
        best = lag + 1
        least = next
      }
    }
    // Distances that only fall do not show a second return.
    if (best < frames >> 1 || mean(best + 1) >= least) valleys.push(best)
  }
  const best = Math.min(...valleys.map(at))
  return valleys.find((each) => at(each) <= best + AS_GOOD) ?? null
}
