import type { GroundName } from './grounds'
import type { Leap } from './leap'

/** Everything that can be found in a file, the gravest first. */
export const FINDING_KINDS = [
  'blank-frame',
  'stray-frame',
  'jumps',
  'jumps-inside',
  'repeats-a-frame',
  'hesitates',
  'too-few-frames',
  'drift',
  'fringe',
  'plays-once',
  'delay-too-short',
  'uneven-delays',
  'kink',
  'there-and-back',
  'shorter-loop',
  'strobes',
] as const
export type FindingKind = (typeof FINDING_KINDS)[number]

/** Something worth saying about a file: what is seen, why it happened, and what to do. */
export interface Finding {
  readonly kind: FindingKind
  /** Counted from 0; null where it is about the loop as a whole. */
  readonly frame: number | null
  readonly message: string
  readonly remedy: string
  /** True where nothing must be mended: it is worth knowing. */
  readonly hint: boolean
  /** Of a shorter loop: its length in frames. */
  readonly length?: number
  /** Of a jump: what leaps, and where in the frame. */
  readonly leap?: Leap
  /** Of a fringe: the ground over which nobody sees it. */
  readonly ground?: GroundName
}
