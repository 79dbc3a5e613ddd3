import * as z from 'zod/mini'
import { whole } from '@/core/schemas'

/** What a part of a loop says of itself, beside its pictures. */
export const PART = 'cyclon-part.json'

/** The loop itself, whose motions are asked when the parts are joined. */
export const LOOP_OF_PART = 'loop.cyclon.json'

export const partSchema = z.strictObject({
  format: z.literal('cyclon-part'),
  /** Names the loop and its state: parts of different ones are not joined. */
  loop: z.string(),
  state: z.string(),
  length: whole(1),
  rate: z.strictObject({ num: whole(1), den: whole(1) }),
  width: whole(1),
  height: whole(1),
  transparent: z.boolean(),
  /** First and last frame in it. */
  from: whole(0),
  to: whole(0),
})
export type Part = z.infer<typeof partSchema>
