import { seeded } from '../random'
import { SNAP } from './ease'

/** Irregularity that repeats: what is added to a value, periodic by construction. */
export interface Tremble {
  /** The most that is added or taken away, in the property's unit; of a colour the share of the way to white or black. */
  readonly amount: number
  /** How many times the value turns about in one cycle, roughly: points of the noise lattice. */
  readonly detail: number
  /** Whole cycles per loop. */
  readonly cycles: number
  readonly seed: number
  /** Where in its cycle it starts, 0 … 1. */
  readonly phase: number
  /** Runs through its cycle the other way. */
  readonly backwards?: boolean
}

/** Finer layers of noise laid over the first, each with half its height and twice its detail. */
const OCTAVES = 3

/**
 * One-dimensional gradient noise on a lattice whose indices wrap: noise(x) = noise(x + size), in (−1, 1)
 * (Perlin 2002, “Improving noise”, with its quintic fade).
 */
export function latticeNoise(x: number, size: number, seed: number): number {
  const cell = Math.floor(x)
  const t = x - cell
  const slope = (index: number) => 2 * seeded(seed, ((index % size) + size) % size) - 1
  const fade = t * t * t * (t * (t * 6 - 15) + 10)
  const [a, b] = [slope(cell) * t, slope(cell + 1) * (t - 1)]
  return 2 * (a + (b - a) * fade)
}

/** What a tremble adds at an unreduced frame of a loop of N frames, `shift` cycles later. */
export function trembleValue(
  { amount, detail, cycles, seed, phase, backwards }: Tremble,
  frame: number,
  length: number,
  shift = 0,
) {
  const on = (frame * cycles) / length + phase + shift
  const q = backwards ? -on : on
  const share = q - Math.floor(q + SNAP)
  let sum = 0
  let height = 1
  let total = 0
  for (let octave = 0; octave < OCTAVES; octave++) {
    const size = detail * 2 ** octave
    sum += height * latticeNoise(share * size, size, seed + 101 * octave)
    total += height
    height /= 2
  }
  return (amount * sum) / total
}
