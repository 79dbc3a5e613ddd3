import { z } from 'zod'

/** What a part of a loop says of itself, beside its pictures. */
export const PART = 'cyclon-part.json'

export const partSchema = z.strictObject({
  format: z.literal('cyclon-part'),
  /** Names the loop and its state: parts of different ones are not joined. */
  loop: z.string(),
  state: z.string(),
  length: z.int().min(1),
  rate: z.strictObject({ num: z.int().min(1), den: z.int().min(1) }),
  width: z.int().min(1),
  height: z.int().min(1),
  transparent: z.boolean(),
  /** First and last frame in it. */
  from: z.int().min(0),
  to: z.int().min(0),
})
export type Part = z.infer<typeof partSchema>
