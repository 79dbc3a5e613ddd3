import { z } from 'zod'

/** The number of a frame. */
export const frameNumber = z.int().min(0).max(1_000_000)
/** Red, green and blue, 0 … 255. */
export const ground = z.tuple([z.number(), z.number(), z.number()])
