import type { z } from 'zod'
import type { Finding } from '../../seam'
import type { ClipPlan, ClipShape } from './plan'

/** A mend that answers a finding, in words. */
export interface Offered<M> {
  readonly label: string
  readonly mend: M
}

/** A kind of mend: an entry of the table in `table.ts`. Frames are counted as they are when the mend is applied. */
export interface MendKind<M> {
  /** Mends of this kind as they are kept from one time to the next. */
  readonly schema: z.ZodType<M>
  /** The mends of this kind that answer a finding in a clip of `count` frames, the plainest first; left out for what is taken by hand only. */
  readonly answers?: (finding: Finding, count: number) => readonly Offered<M>[]
  /** Words for what a mend did, for the list of those that were taken. */
  readonly words: (mend: M) => string
  /** The plan with this mend; the same plan if the mend does not fit, or would leave fewer than two frames. */
  readonly apply: (plan: ClipPlan, mend: M, clip: ClipShape) => ClipPlan
}
