import * as z from 'zod/mini'
import { MAX_LENGTH } from '@/core/clock'
import { MAX_SIZE } from '@/core/document'
import { SCALES } from '@/core/output/bounds'
import { whole } from '@/core/schemas'

/** Name of the file that describes a part of a loop, beside its pictures. */
export const PART = 'cyclon-part.json'

/** The loop itself, whose motions are asked when the parts are joined. */
export const LOOP_OF_PART = 'loop.cyclon.json'

const side = whole(1, MAX_SIZE * SCALES.most)

export const partSchema = z.strictObject({
  format: z.literal('cyclon-part'),
  /** Names the loop and its state: parts of different ones are not joined. */
  loop: z.string(),
  state: z.string(),
  /** Names the program that drew it; absent in parts of versions that did not say so. */
  program: z.optional(z.string()),
  length: whole(1, MAX_LENGTH),
  rate: z.strictObject({ num: whole(1), den: whole(1) }),
  width: side,
  height: side,
  transparent: z.boolean(),
  /** First and last frame in it. */
  from: whole(0, MAX_LENGTH - 1),
  to: whole(0, MAX_LENGTH - 1),
})
export type LoopPart = z.infer<typeof partSchema>
