import { seeded } from '../random'

/** Irregularity that repeats: what is added to a value, periodic by construction. */
export interface Tremble {
  /** The most that is added or taken away, in the property's unit; of a colour the share of the way to white or black. */
  readonly amount: number
  /** How many times the value turns about in one cycle, roughly. */
  readonly detail: number
  /** Whole cycles per loop. */
  readonly cycles: number
  readonly seed: number
  /** Where in its cycle it starts, 0 … 1. */
  readonly phase: number
  /** Runs through its cycle the other way. */
  readonly backwards?: boolean
}

/** Waves that make up a tremble, at the most. */
const MAX_WAVES = 24
/** Points at which the sum is looked at, for each turn of its fastest wave. */
const POINTS_A_TURN = 8

interface Wave {
  /** Turns in one cycle, whole. */
  readonly turns: number
  readonly height: number
  /** 0 … 1 of a turn. */
  readonly from: number
}

/**
 * The waves of a seed. Of whole turns, so that their sum repeats, with phases of their own, so that no moment of the cycle is
 * special: a noise on a lattice rests at each of its points, and is seen to beat. A wave turns about twice in a turn;
 * heights fall off on both sides of half the detail, so that this is what is seen most.
 */
function wavesOf(detail: number, seed: number): readonly Wave[] {
  const middle = Math.max(1, detail / 2)
  const highest = Math.max(3, Math.ceil(2 * middle))
  const count = Math.min(MAX_WAVES, highest)
  const waves = Array.from({ length: count }, (_, i): Wave => {
    const turns = Math.max(1, Math.round(((i + 1) * highest) / count))
    const octaves = Math.log2(turns / middle)
    return {
      turns,
      height: Math.exp(-(octaves ** 2)) * (0.4 + 0.6 * seeded(seed, 2 * i)),
      from: seeded(seed, 2 * i + 1),
    }
  })
  // A sum of waves of up to H turns, known at M points, is nowhere above their greatest ÷ cos(πH/M) (Ehlich & Zeller 1964).
  const points = POINTS_A_TURN * highest
  let greatest = 0
  for (let p = 0; p < points; p++) greatest = Math.max(greatest, Math.abs(sumOf(waves, p / points)))
  const most = greatest / Math.cos(Math.PI / POINTS_A_TURN)
  return waves.map((wave) => ({ ...wave, height: wave.height / most }))
}

const sumOf = (waves: readonly Wave[], share: number): number =>
  waves.reduce((sum, { turns, height, from }) => sum + height * Math.cos(2 * Math.PI * (turns * share + from)), 0)

/** Waves by detail and seed; of the last ones asked for. */
const made = new Map<string, readonly Wave[]>()
const MAX_KEPT = 500

function keptWaves(detail: number, seed: number): readonly Wave[] {
  const key = `${detail} ${seed}`
  const known = made.get(key)
  if (known) return known
  if (made.size >= MAX_KEPT) made.clear()
  const waves = wavesOf(detail, seed)
  made.set(key, waves)
  return waves
}

/** Offset of a tremble at an unreduced frame of a loop of N frames, `shift` cycles later: within ± its amount. */
export function trembleValue(
  { amount, detail, cycles, seed, phase, backwards }: Tremble,
  frame: number,
  length: number,
  shift = 0,
) {
  const on = (frame * cycles) / length + phase + shift
  const q = backwards ? -on : on
  return amount * sumOf(keptWaves(detail, seed), q - Math.floor(q))
}
