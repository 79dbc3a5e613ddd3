import * as z from 'zod/mini'
import { settingsSchema } from '@/core/output'
import { text } from '@/core/schemas'

/** A file of a run as it is stored; what is known of a written one is shown, and otherwise not relied on. */
export const itemSchema = z.strictObject({
  id: text(1000, 1),
  loopKey: text(1000, 1),
  loopName: text(1000),
  settings: settingsSchema,
  name: text(1000),
  state: z.enum(['waiting', 'writing', 'done', 'failed']),
  progress: z.null(),
  problem: z.nullable(z.string()),
  result: z.nullable(
    z.looseObject({
      size: z.number(),
      seconds: z.number(),
      type: z.string(),
      proof: z.looseObject({ holds: z.boolean(), lines: z.array(z.unknown()) }),
    }),
  ),
})
