import {
  type Clock,
  type FileFormat,
  type FileTiming,
  type Fraction,
  fileTiming,
  fraction,
  greatestCommonDivisor,
  MAX_LENGTH,
  toNumber,
} from '../clock'

/** Ticks a second in which formats count, and the fewest of them that viewers honour. */
const TICKS: Partial<Record<FileFormat, readonly [ticks: number, fewest: number]>> = { gif: [100, 2], webp: [1000, 12] }

/** A clock near a loop's own at which a format says something exactly. */
export interface ExactClock extends Clock {
  /** Every delay, or only the time of the whole loop. */
  readonly exact: 'delays' | 'time'
}

/**
 * The clocks nearest to a loop's own at which a format states every delay exactly (rates in whole ticks, with the
 * length that keeps the seconds best), and the nearest lengths at which it states the duration of the loop exactly.
 * Empty if it is exact already.
 */
export function exactClocks(format: FileFormat, length: number, rate: Fraction): ExactClock[] {
  const counts = TICKS[format]
  if (!counts || fileTiming(format, length, rate).exact) return []
  const [ticks, fewest] = counts
  const wanted = (ticks * rate.den) / rate.num
  const delays = [...new Set([Math.floor(wanted), Math.ceil(wanted)].map((delay) => Math.max(fewest, delay)))]
  const rates = delays.map((delay): ExactClock => {
    const exact = fraction(ticks, delay)
    const frames = Math.round((length * rate.den * exact.num) / (rate.num * exact.den))
    return { rate: exact, length: Math.min(MAX_LENGTH, Math.max(1, frames)), exact: 'delays' }
  })
  // N·den·ticks/num is whole for multiples of num/gcd(den·ticks, num).
  const step = rate.num / greatestCommonDivisor(rate.den * ticks, rate.num)
  const lengths =
    length % step === 0 || wanted < fewest
      ? []
      : [...new Set([Math.floor(length / step), Math.ceil(length / step)].map((times) => times * step))].filter(
          (each) => each >= 1 && each <= MAX_LENGTH,
        )
  return [...rates, ...lengths.map((each): ExactClock => ({ rate, length: each, exact: 'time' }))]
}

/** The usual screen, pictures a second. */
const SCREEN = 60

/** For how many pictures of a usual screen each frame is held, the least and the most. */
export function heldOnScreen({ delays }: FileTiming): { readonly least: number; readonly most: number } {
  const held: number[] = []
  let at = 0
  for (const delay of delays) {
    const next = at + toNumber(delay) * SCREEN
    held.push(Math.round(next + 1e-6) - Math.round(at + 1e-6))
    at = next
  }
  return { least: Math.min(...held), most: Math.max(...held) }
}

/** Known behaviour of common viewers with files of a format. */
const VIEWERS: Readonly<Record<FileFormat, readonly string[]>> = {
  gif: ['Browsers, mail and chats play it for ever. A delay under 2 hundredths they take for 10; none is written.'],
  apng: ['Browsers play it for ever. A viewer that knows PNG alone shows its first frame.'],
  webp: ['Browsers play it for ever. Older picture viewers and mail may not show it at all.'],
  avif: ['Recent browsers play it for ever. Most other viewers show one frame of it, or nothing.'],
  mp4: [
    'Plays everywhere; repeats where its player is told to (loop in HTML). Some players rest a moment at the seam.',
  ],
  webm: ['Plays in browsers; repeats where its player is told to. AV1 and VP9 are not played everywhere else.'],
  svg: ['Browsers play it for ever, also as an image of a page. Other viewers of SVG show its first moment.'],
  lottie: [
    'Played by players of Lottie in applications and pages, at the screen’s own rate, as often as they are told.',
  ],
  'png-sequence': ['Read by whatever composes pictures; the rate is told there.'],
  'sprite-sheet': ['Shown by what reads its JSON: where frames lie, and how fast they follow.'],
}

/** Sentences about what common viewers and screens do with a file. */
export function whatViewersDo(format: FileFormat, timing: FileTiming): string[] {
  const { least, most } = heldOnScreen(timing)
  if (format === 'png-sequence' || format === 'svg' || format === 'lottie') return [...VIEWERS[format]]
  const screen =
    most === 0
      ? []
      : least === most
        ? [
            `A screen of ${SCREEN} Hz holds each frame for ${least === 1 ? 'one picture' : `${least} pictures`}: evenly.`,
          ]
        : [`A screen of ${SCREEN} Hz holds frames for ${least} to ${most} pictures in turn: not quite evenly.`]
  return [...VIEWERS[format], ...screen]
}
