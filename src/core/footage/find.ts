import { hash } from '../random'
import { median, quantile } from '../statistics'
import { besideOf, type Distances } from './sketch'
import { passesIn } from './strange'

/** A loop that lies in a clip: so many frames from one on. */
export interface Cut {
  readonly start: number
  readonly length: number
  /** How far what comes over its seam lies from what would be expected there, in steps of the clip: at 1 it is off by no more than a step. */
  readonly cost: number
}

/** What loops are wanted. */
export interface Wanted {
  readonly least: number
  readonly most: number
  /** The first frame that may be in it, and the first that may not any more. */
  readonly from: number
  readonly to: number
}

/** Steps of less than this show nothing, of 255. */
const STILL = 0.05
/** A cut is one where it costs so many steps at the most; where it costs over one, it must be far nearer than frames are as a rule. */
const MOST_COST = 4
const NEARER = { other: 0.35, whole: 0.55 }
/** Each frame by which the periods of a cut are not whole, where a clip has one, costs so much more. */
const BROKEN = { frame: 0.1, most: 0.35 }
/** A cut is left out that costs so many times as much as the best, and so much besides. */
const WORSE = { times: 3, besides: 0.35 }

/** How far frame c lies from where a and b lead to, squared: |a − 2b + c|², by distances alone. */
const bent = (distances: Distances, a: number, b: number, c: number): number =>
  Math.max(0, 2 * distances.at(a, b) + 2 * distances.at(b, c) - distances.at(a, c))

/** What is ordinary in a clip: the step from a frame to the next, how far it bends, squared, how far any two frames are apart, and how far grain alone keeps them. */
export interface Ordinary {
  readonly step: number
  readonly bend: number
  readonly apart: number
  readonly grain: number
}

/** A step is no less than such a share of how far any two frames are apart: where things come and go at once, most steps show none of it. */
const LEAST_STEP = 0.02

function ordinary(distances: Distances): Ordinary {
  const { frames } = distances
  const steps = Array.from({ length: Math.max(0, frames - 1) }, (_, i) => Math.sqrt(distances.at(i, i + 1)))
  const bends = Array.from({ length: Math.max(0, frames - 2) }, (_, i) => bent(distances, i, i + 1, i + 2))
  const some = Array.from({ length: frames > 1 ? 4000 : 0 }, (_, n) => {
    const i = hash(n, 1) % frames
    return Math.sqrt(distances.at(i, (i + 1 + (hash(n, 2) % (frames - 1))) % frames))
  })
  // The nearest frames that there are, beside each other or, where all moves quickly, a turn apart.
  const grain = Math.min(quantile(steps, 0.1), quantile(some, 0.02))
  // A light that is on for a while only is alike in most pairs: the mean knows that it is not in all.
  const apart = Math.sqrt(some.reduce((sum, each) => sum + each * each, 0) / Math.max(1, some.length))
  return { step: Math.max(median(steps), LEAST_STEP * apart), bend: median(bends), apart, grain }
}

/**
 * What it costs to go on with frame i after frame j − 1, for each j from i + least on: how far that is from what comes there in the clip, or comes before it, whichever is nearer; and how
 * much the way bends there, so that nothing goes back the way it came.
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
  const [own, next] = [distances.from(i), distances.from(i + 1)]
  const previous = i > 0 ? distances.from(i - 1) : null
  const first = own[0] as number
  // The hottest loop of the search: nothing is made or called in it. own[k] is how far frame i lies from i + k + 1.
  for (let l = 0; l < costs.length; l++) {
    const length = least + l
    const end = own[length - 2] as number
    const after = i + length < frames ? (own[length - 1] as number) : Infinity
    const before = previous ? (previous[length - 1] as number) : Infinity
    const nearest = Math.min(after, before)
    // Of the whole clip neither is there: its seam is to be a step as others are.
    const apart = nearest < Infinity ? nearest : (Math.sqrt(end) - step) ** 2
    const lastStep = distances.from(i + length - 2)[0] as number
    const comesIn = 2 * lastStep + 2 * end - (length > 2 ? (own[length - 3] as number) : 0)
    const goesOn = 2 * end + 2 * first - (length > 2 ? (next[length - 3] as number) : 0)
    const over = Math.max(comesIn, goesOn) - bend
    costs[l] = Math.sqrt(Math.max(over, apart)) / step
  }
  return costs
}

/** What every cut of a clip costs that is wanted. */
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
export function cutCosts(distances: Distances, wanted: Wanted): CutCosts {
  const usual = ordinary(distances)
  const [from, to] = [Math.max(0, wanted.from), Math.min(distances.frames, wanted.to)]
  const least = Math.max(2, wanted.least)
  const widest = Math.min(wanted.most, to - from)
  const starts = usual.step < STILL ? 0 : Math.max(0, to - from - least + 1)
  const costs = Array.from({ length: starts }, (_, row) => {
    const i = from + row
    const lengths = Math.max(0, Math.min(widest, to - i) - least + 1)
    return costsFrom(distances, i, least, lengths, usual)
  })
  return { from, least, longest: Math.max(least, widest), costs, usual, distances }
}

/** What cuts of a clip cost, as a picture: starts across, lengths down. */
export interface CutMap {
  readonly across: number
  readonly down: number
  /** The best cut of each cell, row by row; null where there is none. */
  readonly cells: readonly (Cut | null)[]
}

/** The map of a clip in no more cells than are asked for. */
export function cutMap(
  { from, least, longest, costs }: CutCosts,
  most: { readonly across: number; readonly down: number },
): CutMap {
  const across = Math.min(most.across, Math.max(1, costs.length))
  const down = Math.min(most.down, longest - least + 1)
  const cells = new Array<Cut | null>(across * down).fill(null)
  for (const [row, line] of costs.entries())
    for (const [l, cost] of line.entries()) {
      const cell = Math.floor((l * down) / (longest - least + 1)) * across + Math.floor((row * across) / costs.length)
      if (cost < (cells[cell]?.cost ?? Infinity)) cells[cell] = { start: from + row, length: least + l, cost }
    }
  return { across, down, cells }
}

/**
 * Loops that lie in a clip, the best first, and of those that are nearly the same the best alone; none where nothing moves, or nothing comes back. Those in which something is seen that
 * is nowhere else in the clip come after others.
 * @param most so many at the most
 * @param holds a frame that is to be in them
 * @param period after which all of the clip comes back, where it does: cuts that last for whole ones are meant
 */
export function findCuts(
  { from, least, costs, usual, distances }: CutCosts,
  most: number,
  holds: number | null = null,
  period: number | null = null,
): Cut[] {
  const { step, apart } = usual
  /** How far each of the periods in a length is from whole, frames; null where they are not. */
  const brokenBy = (length: number): number | null => {
    if (period === null || length < period - 1) return null
    const times = Math.max(1, Math.round(length / period))
    const by = Math.abs(length - period * times)
    return by <= Math.max(1, 0.02 * length) ? by / times : null
  }
  const found: Cut[] = []
  for (const [row, line] of costs.entries())
    for (const [l, cost] of line.entries()) {
      if (holds !== null && (holds < from + row || holds >= from + row + least + l)) continue
      if (
        !(cost <= MOST_COST) ||
        (cost > 1 && cost * step > (brokenBy(least + l) === null ? NEARER.other : NEARER.whole) * apart)
      )
        continue
      // A valley: none beside it is deeper.
      let deepest = true
      for (let dr = -1; dr <= 1 && deepest; dr++)
        for (let dl = -1; dl <= 1 && deepest; dl++) deepest = !((costs[row + dr]?.[l + dl] ?? Infinity) < cost)
      if (deepest) found.push({ start: from + row, length: least + l, cost })
    }
  // What costs no more than a seventh of a step is not told apart by eye: the longer one shows more.
  const alone = aloneIn(distances, usual)
  const rank = ({ start, length, cost }: Cut) =>
    Math.max(0.15, cost) +
    alone(start, length) +
    (period === null ? 0 : Math.min(BROKEN.most, BROKEN.frame * (brokenBy(length) ?? Infinity)))
  const ranks = new Map(found.map((cut) => [cut, rank(cut)]))
  const by = (cut: Cut) => ranks.get(cut) as number
  found.sort((a, b) => by(a) - by(b) || b.length - a.length || a.cost - b.cost)
  // Beside good ones, poor ones are none; one in which nothing moves is not good.
  const best = found.toSorted((a, b) => a.cost - b.cost).find((cut) => movesIn(distances, usual, cut))
  const worst = WORSE.times * (best?.cost ?? 0) + WORSE.besides
  const kept: Cut[] = []
  for (const cut of found) {
    if (kept.length >= most) break
    const alike = (other: Cut) =>
      Math.abs(other.length - cut.length) <= Math.max(2, 0.04 * cut.length) &&
      Math.abs(other.start - cut.start) <= Math.max(4, cut.length / 2)
    if (cut.cost <= worst && !kept.some(alike) && movesIn(distances, usual, cut)) kept.push(cut)
  }
  return kept
}

/** Frames further apart than this move, in squares of what grain alone keeps them; and of how far any two are apart. */
const MOVES = 3
const MOVES_OF_ALL = 0.06 ** 2

/** Whether anything moves in a cut but grain. */
function movesIn(distances: Distances, { grain, apart }: Ordinary, { start, length }: Cut): boolean {
  const bound = Math.max(MOVES * grain * grain, MOVES_OF_ALL * apart * apart)
  for (let n = 1; n < length; n++)
    if (distances.at(start, start + n) > bound || distances.at(start + (length >> 1), start + n) > bound) return true
  return false
}

/** A frame is alone if it is so many times as far from all others as is usual, and so many steps besides; a thing passes where no greater share of a cut is so. */
const ALONE = { times: 1.6, steps: 1, share: 0.3 }

/** Most of a clip comes back where frames have others, elsewhere in it, no further away than so many steps. */
const RECURS = 1.5

/** A cut in which something passes costs so much more, and one of frames that are far from all others up to so much: it is a loop all the same. */
const PASSING = 0.5
const FAR = 0.2
/** How much more a cut costs, given by its start and length, for what no other frame of the clip shows but those beside it: by how far each is from all others, in steps, or by what only passes in it. */
function aloneIn(distances: Distances, { step }: Ordinary): (start: number, length: number) => number {
  const { frames } = distances
  const beside = besideOf(frames)
  const nearest = Array.from({ length: frames }, (_, n) => {
    let least = Infinity
    for (let m = 0; m < frames; m++) if (Math.abs(m - n) > beside) least = Math.min(least, distances.at(n, m))
    return Math.sqrt(least)
  })
  const usual = median(nearest.filter(Number.isFinite))
  // Where most of a clip never comes back, what does not either is nothing that only passes.
  const recurs = usual <= RECURS * step
  const [sums, counts, passing] = [[0], [0], [0]]
  const passes = passesIn(distances.strange)
  for (const [n, each] of nearest.entries()) {
    const over = (each - ALONE.times * usual) / Math.max(step, STILL) - ALONE.steps
    const is = recurs && Number.isFinite(over) && over > 0
    sums.push((sums[n] as number) + (is ? over : 0))
    counts.push((counts[n] as number) + (is ? 1 : 0))
    passing.push((passing[n] as number) + (passes[n] ? 1 : 0))
  }
  const within = (of: readonly number[], start: number, length: number) =>
    (of[start + length] as number) - (of[start] as number)
  return (start, length) => {
    if (within(passing, start, length) > 0) return PASSING
    // What is so for longer does not pass: it is what the clip shows there.
    return within(counts, start, length) > ALONE.share * length ? 0 : Math.min(FAR, within(sums, start, length))
  }
}

/** A period is one where frames that lie it apart are so much nearer than any two are, as a share of the squares beyond what grain keeps them; a shorter one is as good within a tenth. */
const PERIOD_NEARER = 0.25
const AS_GOOD = 0.1

/** After how many frames all of a clip comes back, which it does at least twice; null where it does not. */
export function periodOf(distances: Distances): number | null {
  const { frames } = distances
  const { step, apart, grain } = ordinary(distances)
  const spread = apart * apart - grain * grain
  if (step < STILL || spread < (MOVES - 1) * grain * grain) return null
  const apartBy = (lag: number) => Array.from({ length: Math.max(0, frames - lag) }, (_, i) => distances.at(i, i + lag))
  const shares = Array.from({ length: (frames >> 1) + 2 }, (_, lag) =>
    // What passes once is far from all: the median does not count it.
    lag < 1 || lag >= frames ? Infinity : Math.max(0, median(apartBy(lag)) - grain * grain) / spread,
  )
  const at = (lag: number) => shares[lag] as number
  // Frames next to each other are alike, too: a period comes after they have been apart.
  let lag = 1
  while (lag <= frames >> 1 && at(lag) < 0.5) lag++
  const valleys: number[] = []
  const mean = (of: number) => apartBy(of).reduce((sum, each) => sum + each, 0) / (frames - of)
  for (; lag <= frames >> 1; lag++) {
    if (at(lag) > PERIOD_NEARER) continue
    // Where most frames are alike for several lags, all of them tell which one it is.
    let [best, least] = [lag, mean(lag)]
    for (; lag + 1 <= frames >> 1 && at(lag + 1) <= PERIOD_NEARER; lag++) {
      const next = mean(lag + 1)
      if (next < least) [best, least] = [lag + 1, next]
    }
    // What goes on getting nearer does not come back twice.
    if (best < frames >> 1 || mean(best + 1) >= least) valleys.push(best)
  }
  const best = Math.min(...valleys.map(at))
  return valleys.find((each) => at(each) <= best + AS_GOOD) ?? null
}
