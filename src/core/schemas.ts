import * as z from 'zod/mini'
import { MAX_NUMBER } from './bounds'

/** Schemas that several files are read by. */

/** A number from `least` to `most`. */
export const number = (least: number, most: number) => z.number().check(z.gte(least), z.lte(most))

/** A whole number from `least` to `most`, or with no upper bound of its own. */
export const whole = (least: number, most = Number.MAX_SAFE_INTEGER) => z.int().check(z.gte(least), z.lte(most))

/** A text of at most `most` characters. */
export const text = (most: number, least = 0) => z.string().check(z.minLength(least), z.maxLength(most))

/** A list of at most `most` entries. */
export const list = <T extends z.ZodMiniType>(entry: T, most: number, least = 0) =>
  z.array(entry).check(z.minLength(least), z.maxLength(most))

/** A text that a rule of one's own holds for; `otherwise` goes on from the name of the field. */
export const textThat = (holds: (text: string) => boolean, otherwise: string) =>
  z.string().check(z.refine(holds, otherwise))

/** A number of the document, such as a place in px. */
export const coordinate = number(-MAX_NUMBER, MAX_NUMBER)
export const share = number(0, 1)

export const id = z.string().check(z.regex(/^[A-Za-z0-9_-]{1,64}$/, 'is not an id: 1 to 64 letters, digits, - or _'))
