import { modulo } from '../modulo'
import { hash, seeded } from '../random'

/** Many small things over a tile of a size in px; every count is whole, so that they come home after a cycle of their time. */
export interface ParticleSpec {
  readonly count: number
  /** px across, of the nearest; and the share by which sizes differ. */
  readonly size: number
  readonly sizeSpread: number
  /** Number of depths; the farthest is smaller, fainter and slower by `parallax`, 0 … 1. */
  readonly depths: number
  readonly parallax: number
  /** Tiles per cycle of the nearest; those that lie farther go whole tiles, too. */
  readonly driftX: number
  readonly driftY: number
  /** px to either side, across the way they drift; and how often in a cycle. */
  readonly sway: number
  readonly swayTurns: number
  /** How far they fade in between, 0 … 1; and how often in a cycle. */
  readonly twinkle: number
  readonly twinkleTurns: number
  /** Turns of each in a cycle. */
  readonly spin: number
  /** How often each is born anew in a cycle; 0 where they live for ever. */
  readonly births: number
  readonly seed: number
}

/** Numbers that are kept of each particle: where it is in px, its size, its angle in degrees, how opaque it is, and its share of the colours. */
export const PARTICLE = { x: 0, y: 1, size: 2, angle: 3, alpha: 4, tint: 5, stride: 6 } as const

const TURN = 2 * Math.PI
const fraction = (value: number): number => value - Math.floor(value)

/** Whole tiles that what lies at a depth drifts in a cycle: at least one where the nearest do, in their direction. */
function tilesAt(tiles: number, far: number): number {
  const slower = Math.round(tiles * (1 - far))
  return slower === 0 && tiles !== 0 ? Math.sign(tiles) : slower
}

/**
 * Where all particles are at a time, in cycles, farthest first. Drift: p(t) = p₀ + t·(kₓ, k_y) tiles with whole k for each depth; the age of
 * one that is born c times is frac(c·t + φ), and generation ⌊c·t + φ⌋ modulo c seeds where it begins, so that c generations differ.
 * @param width, height of the tile, px
 */
export function particlesAt(spec: ParticleSpec, width: number, height: number, time: number): Float32Array {
  const { count, depths, parallax, births, seed } = spec
  const { x, y, size, angle, alpha, tint, stride } = PARTICLE
  const out = new Float32Array(count * stride)
  const way = Math.hypot(spec.driftX * width, spec.driftY * height)
  // Across the way they go; sideways where they go nowhere.
  const [sideX, sideY] = way > 0 ? [(-spec.driftY * height) / way, (spec.driftX * width) / way] : [1, 0]
  for (let i = 0; i < count; i++) {
    const depth = depths > 1 ? Math.floor((i * depths) / count) : 0
    // The last ones lie nearest.
    const far = depths > 1 ? (1 - depth / (depths - 1)) * parallax : 0
    const age = births > 0 ? fraction(births * time + seeded(seed, i, 1)) : 0.5
    const born = births > 0 ? Math.floor(births * time + seeded(seed, i, 1)) : 0
    const generation = births > 0 ? modulo(born, births) : 0
    const swing = spec.sway * (1 - far) * Math.sin(TURN * (spec.swayTurns * time + seeded(seed, i, 2)))
    const along = (start: number, tiles: number) => fraction(start + tilesAt(tiles, far) * time)
    const at = i * stride
    const wrapped = (value: number, side: number) => value - side * Math.floor(value / side)
    out[at + x] = wrapped(along(seeded(seed, i, 3, generation), spec.driftX) * width + swing * sideX, width)
    out[at + y] = wrapped(along(seeded(seed, i, 4, generation), spec.driftY) * height + swing * sideY, height)
    const life = births > 0 ? Math.sin(Math.PI * age) : 1
    const own = 1 + spec.sizeSpread * (2 * seeded(seed, i, 5) - 1)
    out[at + size] = spec.size * own * (1 - 0.7 * far) * (births > 0 ? 0.4 + 0.6 * life : 1)
    const turning = hash(seed, i, 6) % 2 === 0 ? spec.spin : -spec.spin
    out[at + angle] = 360 * (turning * time + seeded(seed, i, 7))
    const faded = spec.twinkle * (0.5 + 0.5 * Math.sin(TURN * (spec.twinkleTurns * time + seeded(seed, i, 8))))
    out[at + alpha] = (1 - 0.5 * far) * (1 - faded) * life
    out[at + tint] = seeded(seed, i, 9)
  }
  return out
}
