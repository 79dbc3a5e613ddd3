import { clipPeriod, cutCosts, Distances, findCuts, glimpseOf, type SceneView } from '../footage'
import type { Picture } from '../image'
import { seeded } from '../random'
import { field, filmed, wall } from './footage'

/** A clip of the corpus and the facts to be found in it. */
export interface KnownClip {
  readonly kind: ClipKind
  readonly seed: number
  readonly pictures: readonly Picture[]
  /** Frames after which it comes back; null if nothing in it does. */
  readonly period: number | null
  /** Frames in which something passes that does not belong. */
  readonly passes: readonly [number, number] | null
}

export const CLIP_KINDS = [
  'periodic, with grain',
  'periodic, dying down',
  'two periods',
  'periodic, drifting light',
  'periodic, held by hand',
  'periodic, breathing exposure',
  'a thing passes once',
  'uneven rate',
  'texture without a period',
  'still',
  'all cuts',
  'one way',
] as const
export type ClipKind = (typeof CLIP_KINDS)[number]

const SIZE = { width: 96, height: 54, looks: 1, grain: 4 } as const

/** A clip of a kind: a wall, a lamp on a rope before it, and what the kind asks for besides. */
export function knownClip(kind: ClipKind, seed: number): KnownClip {
  const pick = (k: number, least: number, most: number) => Math.floor(least + seeded(seed, k) * (most - least + 1))
  const period = pick(1, 18, 44)
  const second = kind === 'two periods' ? ([period * 2, Math.round(period * 1.5) * 1][pick(2, 0, 1)] ?? period) : period
  const even = kind === 'two periods' ? period - (period % 2) : period
  const own = kind === 'two periods' ? (second === period * 2 ? even * 2 : (even / 2) * 3) : 0
  const common = kind === 'two periods' ? (own === even * 2 ? own : own * 2) : even
  const frames = Math.round(common * (kind === 'two periods' ? 1.6 : 2.3 + 1.5 * seeded(seed, 3)))
  const length = ['texture without a period', 'still', 'all cuts', 'one way'].includes(kind) ? 90 : frames
  const from = Math.round(length * (0.25 + 0.4 * seeded(seed, 4)))
  const passes = kind === 'a thing passes once' ? ([from, from + pick(5, 6, 12)] as const) : null
  const times = Array.from({ length }, (_, n) => n)
  if (kind === 'uneven rate')
    for (const n of times.keys()) times[n] = n + 0.35 * Math.sin(n * 1.7 + seed) * (n % 5 === 0 ? 1 : 0.3)
  const shake = kind === 'periodic, held by hand' ? 0.004 : 0
  const clip = {
    ...SIZE,
    frames: length,
    seed,
    view: (n: number): SceneView => [
      1,
      0,
      shake * field(seed, n * 0.6, 0.5),
      0,
      1,
      shake * field(seed + 1, n * 0.6, 0.5),
      0,
      0,
      1,
    ],
    light: (n: number) =>
      kind === 'periodic, drifting light'
        ? 1 + (0.06 * n) / length
        : kind === 'periodic, breathing exposure'
          ? 1 + 0.03 * Math.sin(n / 7.3 + seed)
          : 1,
    scene(x: number, y: number, n: number, into: Float64Array) {
      const t = times[n] as number
      if (kind === 'all cuts') {
        wall(x + 3 * Math.floor(n / pick(10 + n - (n % 6), 3, 6)), y, into, seed + Math.floor(n / 5))
        return
      }
      wall(x, y, into, seed)
      if (kind === 'still') return
      if (kind === 'texture without a period') {
        if (y > -0.05) into.fill(120 + 80 * field(seed + 9, x * 12, y * 16 + n * 0.4, n * 0.3))
        return
      }
      const away = kind === 'one way' ? -0.4 + (0.9 * n) / length : 0
      const swing = kind === 'periodic, dying down' ? 0.82 ** (n / even) : 1
      const angle = kind === 'one way' ? 0 : (2 * Math.PI * t) / even + seed
      const cx = away + 0.22 * swing * Math.cos(angle)
      const cy = 0.12 * swing * Math.sin(angle)
      const lit = Math.max(0, 1 - Math.hypot(x - cx, y - cy) / 0.09)
      for (const c of [0, 1, 2]) into[c] = (into[c] as number) + lit * ([180, 130, 40][c] as number)
      if (own > 0 && Math.hypot(x - 0.35, y - 0.16 * Math.sin((2 * Math.PI * t) / own)) < 0.07) into.set([190, 60, 50])
      if (passes && n >= passes[0] && n <= passes[1]) {
        const at = -0.6 + (1.2 * (n - passes[0])) / (passes[1] - passes[0])
        if (Math.hypot((x - at) / 2, y + 0.2) < 0.035) into.fill(235)
      }
    },
  }
  const pictures = Array.from({ length }, (_, n) => filmed(clip, n))
  const loops = !['texture without a period', 'still', 'all cuts', 'one way'].includes(kind)
  return { kind, seed, pictures, period: loops ? common : null, passes }
}

/** Whether what is known of a clip was found in it: its period, or a multiple, among the first three, free of what passes; or nothing where nothing loops. */
export function isFound({ pictures, period, passes }: KnownClip): boolean {
  const frames = pictures.length
  const distances = new Distances(pictures.map(glimpseOf))
  const costs = cutCosts(distances, { least: 8, most: frames, from: 0, to: frames })
  const cuts = findCuts(costs, 3, null, clipPeriod(distances))
  if (period === null) return cuts.length === 0
  return cuts.some(({ start, length }) => {
    const times = Math.round(length / period)
    const isFree = !passes || start > passes[1] || start + length <= passes[0]
    return times >= 1 && Math.abs(length - times * period) <= 1 && isFree
  })
}
