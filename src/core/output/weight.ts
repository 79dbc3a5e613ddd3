import { toNumber } from '../clock'
import type { Loop } from '../document'
import { divisors } from '../fit'
import type { Estimate } from './estimate'
import type { FileSettings } from './settings'

/** Settings with what they cost and what they spoil. */
export interface Weighed extends Estimate {
  readonly settings: FileSettings
  /** Root mean square difference from the loop itself, of 255, as it is seen: at its own size and rate. */
  readonly error: number
}

const SIZES = [1, 0.75, 0.6, 0.5, 0.4, 0.3, 0.25]
const COLOURS = [256, 128, 64, 32, 16, 8]
const LOSSES = [0, 4, 8, 16, 32]
const QUALITIES = [90, 75, 60, 45, 30, 15]
/** Motion is not thinned out below this rate, frames per second. */
const SLOWEST = 8

/** The next lower step of a ladder; null at its foot. */
const below = (ladder: readonly number[], value: number): number | null =>
  ladder.find((step) => step < value - 1e-9) ?? null

/** The settings that are cheaper by one step of one kind: size, rate, colours, dither, loss or quality. */
export function cheaper(
  settings: FileSettings,
  loop: Pick<Loop, 'length' | 'rate'>,
  fullScale: number,
): FileSettings[] {
  const { format, scale, every, colours, loss, lossless, quality, dithering } = settings
  const found: FileSettings[] = []
  const step = <K extends keyof FileSettings>(key: K, value: FileSettings[K] | null) => {
    if (value !== null) found.push({ ...settings, [key]: value })
  }
  const size = below(SIZES, scale / fullScale)
  step('scale', size === null ? null : Number((size * fullScale).toFixed(4)))
  // Only divisors: every frame that is left is one of the loop's, and every motion closes as before.
  const thinner = divisors(loop.length).find((each) => each > every)
  step('every', thinner && toNumber(loop.rate) / thinner >= SLOWEST ? thinner : null)
  if (format === 'gif') {
    step('colours', below(COLOURS, colours))
    step('loss', LOSSES.find((each) => each > loss) ?? null)
    if (dithering === 'none' && colours <= 64) step('dithering', 'ordered')
  }
  if (format === 'webp' && lossless) found.push({ ...settings, lossless: false, quality: QUALITIES[0] as number })
  else if (format === 'webp' || format === 'mp4' || format === 'webm' || format === 'avif')
    step('quality', below(QUALITIES, quality))
  return found
}

/** Those that nothing else beats in both weight and error, the heaviest first. */
export function frontOf(points: readonly Weighed[]): Weighed[] {
  const sorted = [...points].sort((a, b) => a.error - b.error || a.bytes - b.bytes)
  let lightest = Infinity
  return sorted.filter(({ bytes }) => {
    if (bytes >= lightest) return false
    lightest = bytes
    return true
  })
}

interface Search {
  /** Bytes. */
  readonly limit: number
  /** At most this many settings are weighed. */
  readonly most: number
  /** The search stops after this many under the limit. */
  readonly enough: number
  readonly weigh: (settings: FileSettings) => Promise<Weighed>
  readonly found: (points: readonly Weighed[], weighed: number) => void
}

/**
 * Settings under a weight, best first: of all that have been weighed, the least spoilt one that is still too heavy is made cheaper
 * in every way there is, until enough stay under the limit.
 * @returns all that were weighed
 */
export async function searchWeight(
  start: FileSettings,
  loop: Pick<Loop, 'length' | 'rate'>,
  { limit, most, enough, weigh, found }: Search,
): Promise<Weighed[]> {
  const weighed: Weighed[] = []
  const seen = new Set<string>()
  const open: Weighed[] = []
  const visit = async (settings: FileSettings) => {
    const key = JSON.stringify(settings)
    if (seen.has(key) || weighed.length >= most) return
    seen.add(key)
    const point = await weigh(settings)
    weighed.push(point)
    if (point.bytes > limit) open.push(point)
    found(weighed, weighed.length)
  }
  await visit(start)
  const under = () => weighed.filter(({ bytes }) => bytes <= limit).length
  while (open.length > 0 && weighed.length < most && under() < enough) {
    // How much must be saved counts too: far too heavy ones are not walked through step by step.
    const cost = ({ error, bytes }: Weighed) => error + 4 * Math.log2(bytes / limit)
    const next = open.reduce((best, each) => (cost(each) < cost(best) ? each : best))
    open.splice(open.indexOf(next), 1)
    for (const settings of cheaper(next.settings, loop, start.scale)) await visit(settings)
  }
  return weighed
}
