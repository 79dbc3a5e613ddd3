import { z } from 'zod'
import { CAMERA_MODELS } from './camera'
import { BETWEEN } from './joining'
import type { Mend } from './mend'
import { MAX_PATCHES } from './patches'

const frame = z.int().min(0).max(1_000_000)
const colour = z.tuple([z.number(), z.number(), z.number()])
const map = z
  .object({
    across: z.int().min(1).max(1000),
    down: z.int().min(1).max(1000),
    labels: z.string().regex(/^[0-9a-z]*$/),
  })
  .refine(({ across, down, labels }) => labels.length === across * down)
const ownLoop = z.object({ start: frame, period: z.int().min(1).max(1_000_000), overlap: z.int() })

/** Mends as they are kept from one time to the next. */
const mend = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('drop'), frames: z.array(frame).max(100_000) }),
  z.object({ kind: z.literal('crop'), from: frame, to: frame }),
  z.object({ kind: z.literal('there-and-back') }),
  z.object({
    kind: z.literal('overlap'),
    frames: z.number().min(1),
    keepVariance: z.boolean(),
    morph: z.boolean().optional(),
  }),
  z
    .object({
      kind: z.literal('parts'),
      length: z.int().min(2).max(100_000),
      map,
      loops: z.array(ownLoop).min(1).max(MAX_PATCHES),
    })
    .refine(({ map: { labels }, loops }) =>
      [...labels].every((sign) => Number.parseInt(sign, MAX_PATCHES) < loops.length),
    ),
  z.object({ kind: z.literal('reverse') }),
  z.object({ kind: z.literal('pace'), speed: z.number().min(0.01).max(100), between: z.enum(BETWEEN) }),
  z.object({ kind: z.literal('even-exposure') }),
  z.object({ kind: z.literal('even-delays') }),
  z.object({ kind: z.literal('slower'), delayMs: z.number().min(0) }),
  z.object({ kind: z.literal('last'), seconds: z.number().positive() }),
  z.object({ kind: z.literal('for-ever') }),
  z.object({ kind: z.literal('same-edge'), ground: colour }),
  z.object({ kind: z.literal('matte'), colour }),
  z.object({ kind: z.literal('steady'), model: z.enum(CAMERA_MODELS) }),
  z.object({ kind: z.literal('even-light') }),
])

/** Grain was a mend of its own once; now it is laid wherever it is smoothed. */
const mends = z
  .array(z.union([mend, z.object({ kind: z.literal('grain') })]))
  .max(200)
  .transform((all) => all.filter(({ kind }) => kind !== 'grain'))

const plan = z.object({ mends, undone: mends })

/** Mends of a clip that are kept with it, and those that were undone. */
export interface KeptMends {
  readonly mends: readonly Mend[]
  readonly undone: readonly Mend[]
}

/** Mends that were kept; null for what is none, or was kept by a version that knew others. */
export function readMends(value: unknown): KeptMends | null {
  const { success, data } = plan.safeParse(value)
  return success ? (data as KeptMends) : null
}
