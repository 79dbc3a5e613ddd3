import type { Glimpse } from '../look/glimpse'

/**
 * A value is strange if it lies outside the range at its place and beside it over all frames but the share `share` at
 * each end, widened by `besides`, of 255: a shaking camera shows there what lies beside it.
 */
const RANGE = { share: 0.04, besides: 24 }
/** A place that is strange in more frames than such a share of all is another scene, not something that passes. */
const MAX_PASSING_SHARE = 0.15
/** Green tells nearly all that is seen, and red what is as bright. */
const COMPARED_CHANNELS = [0, 1] as const

/**
 * In how many places of each frame something is seen that is there at no other time: what only passes, though it be small. Places are those of the glimpses.
 * @param beside frames that are so near that they show the same thing passing
 */
export function strangeIn(glimpses: readonly Glimpse[], beside: number): Uint16Array {
  const count = glimpses.length
  const strange = new Uint16Array(count)
  const { width = 0, data } = glimpses[0] ?? {}
  const places = (data?.length ?? 0) >> 2
  const each = Math.floor(RANGE.share * count)
  if (each < 1) return strange
  const ranges = COMPARED_CHANNELS.map((channel) => rangesOf(glimpses, channel, width, each))
  // No more than the shares that are left out of the ranges.
  const odd: [frame: number, place: number][] = []
  for (const [n, glimpse] of glimpses.entries())
    for (let place = 0; place < places; place++)
      for (let c = 0; c < COMPARED_CHANNELS.length; c++) {
        const value = glimpse.data[4 * place + (COMPARED_CHANNELS[c] as number)]
        const { least, most } = ranges[c]
        if (value >= least[place] && value <= most[place]) continue
        odd.push([n, place])
        break
      }
  const times = new Uint16Array(places)
  const first = new Int32Array(places).fill(-1)
  const last = new Int32Array(places)
  for (const [n, place] of odd) {
    times[place] += 1
    if (first[place] < 0) first[place] = n
    last[place] = n
  }
  // Something that comes again does not merely pass.
  const passes = (place: number) =>
    times[place] <= MAX_PASSING_SHARE * count && last[place] - first[place] <= 2 * beside
  for (const [n, place] of odd) if (passes(place)) strange[n] += 1
  return strange
}

interface Ranges {
  readonly least: Int16Array
  readonly most: Int16Array
}

/** Range of each place and its neighbours over all frames but `each` at either end, widened a little. */
function rangesOf(glimpses: readonly Glimpse[], channel: number, width: number, each: number): Ranges {
  const places = (glimpses[0]?.data.length ?? 0) >> 2
  const bins = new Uint16Array(256 * places)
  for (const { data } of glimpses)
    for (let place = 0; place < places; place++) {
      const bin = 256 * place + data[4 * place + channel]
      bins[bin] += 1
    }
  const low = new Int16Array(places)
  const high = new Int16Array(places)
  for (let place = 0; place < places; place++) {
    const of = 256 * place
    let from = of
    let to = of + 255
    for (let sum = bins[from]; sum <= each; ) sum += bins[++from]
    for (let sum = bins[to]; sum <= each; ) sum += bins[--to]
    low[place] = from - of
    high[place] = to - of
  }
  return {
    least: spread(low, width, Math.min).map((value) => value - RANGE.besides),
    most: spread(high, width, Math.max).map((value) => value + RANGE.besides),
  }
}

/** Of each place and the eight about it. */
function spread(values: Int16Array, width: number, of: (a: number, b: number) => number): Int16Array {
  const along = values.map((value, i) => {
    const x = i % width
    const left = x > 0 ? of(value, values[i - 1]) : value
    return x < width - 1 ? of(left, values[i + 1]) : left
  })
  return along.map((value, i) => of(of(value, along[i - width] ?? value), along[i + width] ?? value))
}

/**
 * Something passes in a frame with at least `places` strange places that each have at least `of` strange neighbours: a
 * shaking camera makes single ones strange.
 */
const STRANGE = { places: 2, of: 3, about: 2 }

/** Frames in which something passes that is seen at no other time. */
export function passesIn(strange: ArrayLike<number>): boolean[] {
  const is = (n: number) => (strange[n] ?? 0) >= STRANGE.places
  return Array.from({ length: strange.length }, (_, n) => {
    let some = 0
    for (let m = n - STRANGE.about; m <= n + STRANGE.about; m++) if (is(m)) some++
    return is(n) && some >= STRANGE.of
  })
}
