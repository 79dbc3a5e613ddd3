import type { Finding } from '../../seam'
import { evenDelaysMend, forEverMend, lastMend, slowerMend } from './kinds/delays'
import { evenExposureMend } from './kinds/exposure'
import { cropMend, dropMend, reverseMend, thereAndBackMend } from './kinds/frames'
import { overlapMend } from './kinds/overlap'
import { paceMend } from './kinds/pace'
import { evenLightMend, matteMend, sameEdgeMend, steadyMend } from './kinds/pictures'
import { regionsMend } from './kinds/regions'
import type { MendKind, Offered } from './mend-kind'
import { type ClipPlan, type ClipShape, plainPlan } from './plan'

/** All kinds of mend. Those that answer one finding are offered in this order. */
export const MENDS = {
  drop: dropMend,
  crop: cropMend,
  overlap: overlapMend,
  'there-and-back': thereAndBackMend,
  parts: regionsMend,
  reverse: reverseMend,
  pace: paceMend,
  'even-exposure': evenExposureMend,
  'even-light': evenLightMend,
  'even-delays': evenDelaysMend,
  slower: slowerMend,
  last: lastMend,
  'for-ever': forEverMend,
  'same-edge': sameEdgeMend,
  matte: matteMend,
  steady: steadyMend,
} as const

type MendName = keyof typeof MENDS
/** An action that repairs the seam of a clip. Frames are counted as they are when it is applied. */
export type Mend = { [K in MendName]: (typeof MENDS)[K] extends MendKind<infer M> ? M : never }[MendName]
export type OfferedMend = Offered<Mend>

const kindOf = ({ kind }: Mend): MendKind<Mend> => MENDS[kind] as unknown as MendKind<Mend>

/**
 * The plan with one more mend. A mend that would leave fewer than two frames, or that does not fit, changes nothing.
 * Mixing frames smooths their grain: the plan adds as much grain as was lost, if the clip has any.
 */
export const applyMend = (plan: ClipPlan, mend: Mend, clip: ClipShape): ClipPlan => kindOf(mend).apply(plan, mend, clip)

/** All mends of a clip, one after the other. */
export const mendedPlan = (clip: ClipShape, mends: readonly Mend[]): ClipPlan =>
  mends.reduce((plan, mend) => applyMend(plan, mend, clip), plainPlan(clip))

/** The mends that answer a finding in a clip of `count` frames, the plainest first. */
export const mendsFor = (finding: Finding, count: number): OfferedMend[] =>
  Object.values(MENDS).flatMap(({ answers }: Pick<MendKind<Mend>, 'answers'>) => answers?.(finding, count) ?? [])

/** A mend in words, for the list of what was done. */
export const mendWords = (mend: Mend): string => kindOf(mend).words(mend)
