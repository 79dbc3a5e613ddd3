import * as z from 'zod/mini'
import type { Fraction } from '@/core/clock'
import { cellAt, type SheetGrid } from '@/core/image'
import { whole } from '@/core/schemas'

/** JSON beside a sprite sheet: the place of each frame, and its rate. */
const sheetSchema = z.strictObject({
  format: z.literal('cyclon-sprite-sheet'),
  image: z.string(),
  width: whole(1),
  height: whole(1),
  rate: z.strictObject({ num: whole(1), den: whole(1) }),
  repeats: z.literal('for ever'),
  frames: z.array(z.strictObject({ x: whole(0), y: whole(0), width: whole(1), height: whole(1) })),
})
export type SheetDescription = z.infer<typeof sheetSchema>

/** @param size of one frame, px */
export function describeSheet(
  image: string,
  sheet: { readonly width: number; readonly height: number },
  grid: SheetGrid,
  size: { readonly width: number; readonly height: number },
  rate: Fraction,
): SheetDescription {
  const area = { width: grid.columns * size.width, height: grid.rows * size.height }
  return {
    format: 'cyclon-sprite-sheet',
    image,
    width: sheet.width,
    height: sheet.height,
    rate,
    repeats: 'for ever',
    frames: Array.from({ length: grid.count }, (_, n) => cellAt(area, grid, n)),
  }
}

/** @throws ZodError where the text is no description of a sprite sheet. */
export const readSheet = (text: string): SheetDescription => sheetSchema.parse(JSON.parse(text))
