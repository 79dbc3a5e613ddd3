import { z } from 'zod'
import { MENDS, type Mend } from './table'

/** Grain was a mend of its own once; now it is laid wherever it is smoothed. */
const FORMER = z.object({ kind: z.literal('grain') })
const mend = z.union([...Object.values(MENDS).map(({ schema }): z.ZodType<Mend> => schema), FORMER])

const mends = z
  .array(mend)
  .max(200)
  .transform((all) => all.filter((one): one is Mend => one.kind !== 'grain'))

const plan = z.object({ mends, undone: mends })

/** Mends of a clip that are kept with it, and those that were undone. */
export interface KeptMends {
  readonly mends: readonly Mend[]
  readonly undone: readonly Mend[]
}

/** Mends that were kept; null for what is none, or was kept by a version that knew others. */
export const readMends = (value: unknown): KeptMends | null => plan.safeParse(value).data ?? null
