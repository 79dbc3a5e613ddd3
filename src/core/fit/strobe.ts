import { reduceGap } from '../motion'

/** Apparent motion of something that moves by s per frame and looks the same after m. */
export interface Strobe {
  /** Greatest step from frame to frame, in the property's unit. */
  readonly step: number
  /** The step as the eye takes it: s reduced to (−m/2, m/2]. */
  readonly seen: number
  /** Step as a share of m. */
  readonly share: number
  readonly looks: 'smooth' | 'flickering' | 'still' | 'backwards' | 'slow'
}

/** Up to this share of m a step is safe. */
const SAFE_SHARE = 1 / 4

/** Apparent motion of steps, in the property's unit, with the equivalence m. */
export function strobing(step: number, equivalence: number): Strobe {
  const seen = reduceGap(step, equivalence)
  const share = Math.abs(step) / equivalence
  return { step, seen, share, looks: looksOf(step, seen, equivalence) }
}

function looksOf(step: number, seen: number, equivalence: number): Strobe['looks'] {
  const share = Math.abs(step) / equivalence
  if (share <= SAFE_SHARE + 1e-9) return 'smooth'
  if (Math.abs(seen) <= 1e-3 * equivalence) return 'still'
  if (seen * Math.sign(step) < 0) return 'backwards'
  return share > 1 ? 'slow' : 'flickering'
}

/**
 * The most whole cycles, and the least length, at which the step stays safe: the speed is in proportion to cycles/N.
 * Null for cycles where not even one is slow enough.
 */
export function safeSettings(strobe: Strobe, cycles: number, length: number) {
  const tooFast = strobe.share / SAFE_SHARE
  const slower = Math.floor(cycles / tooFast + 1e-9)
  return { cycles: slower >= 1 ? slower : null, length: Math.ceil(length * tooFast - 1e-9) }
}
