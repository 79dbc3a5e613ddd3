import type { SheetGrid } from './sheet'

/** How the frames of a sprite sheet are laid out. */
export const SHEET_SIDES = [
  ...(['as it comes', 'powers of two'] as const),
  ...(['up to 1024 px wide', 'up to 2048 px wide', 'up to 4096 px wide'] as const),
] as const
export type SheetSides = (typeof SHEET_SIDES)[number]

const WIDEST: Partial<Record<SheetSides, number>> = {
  'up to 1024 px wide': 1024,
  'up to 2048 px wide': 2048,
  'up to 4096 px wide': 4096,
}

interface SheetLayout {
  readonly grid: SheetGrid
  readonly width: number
  readonly height: number
}

const powerOfTwo = (side: number): number => 2 ** Math.ceil(Math.log2(side))

/**
 * Columns and rows for the given number of frames, and the size of the sheet in px: as square as possible with the
 * fewest empty cells; or as many columns as fit a width, at least one.
 */
export function sheetLayout(
  count: number,
  frame: { readonly width: number; readonly height: number },
  sides: SheetSides,
): SheetLayout {
  const layout = (columns: number): SheetLayout => {
    const rows = Math.ceil(count / columns)
    const w = columns * frame.width
    const h = rows * frame.height
    const [width, height] = sides === 'powers of two' ? [powerOfTwo(w), powerOfTwo(h)] : [w, h]
    return { grid: { columns, rows, count }, width, height }
  }
  const widest = WIDEST[sides]
  if (widest) return layout(Math.min(count, Math.max(1, Math.floor(widest / frame.width))))
  const side = ({ width, height }: SheetLayout) => Math.max(width, height)
  return Array.from({ length: count }, (_, i) => layout(i + 1)).reduce((best, each) =>
    side(each) < side(best) || (side(each) === side(best) && each.width * each.height < best.width * best.height)
      ? each
      : best,
  )
}
