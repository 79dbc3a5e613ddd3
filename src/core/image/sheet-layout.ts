import type { Grid } from './sheet'

/** How the frames of a sprite sheet are laid out. */
export const SHEET_SIDES = ['as it comes', 'powers of two'] as const
export type SheetSides = (typeof SHEET_SIDES)[number]

const powerOfTwo = (side: number): number => 2 ** Math.ceil(Math.log2(side))

/**
 * Columns and rows for so many frames of a size, so that the sheet is as square as it can be, with the least room left over;
 * and the size of the sheet, px.
 */
export function sheetLayout(
  count: number,
  frame: { readonly width: number; readonly height: number },
  sides: SheetSides,
): { readonly grid: Grid; readonly width: number; readonly height: number } {
  const layouts = Array.from({ length: count }, (_, i) => {
    const columns = i + 1
    const rows = Math.ceil(count / columns)
    const [w, h] = [columns * frame.width, rows * frame.height]
    const [width, height] = sides === 'powers of two' ? [powerOfTwo(w), powerOfTwo(h)] : [w, h]
    return { grid: { columns, rows, count }, width, height }
  })
  const side = ({ width, height }: { width: number; height: number }) => Math.max(width, height)
  return layouts.reduce((best, each) =>
    side(each) < side(best) || (side(each) === side(best) && each.width * each.height < best.width * best.height)
      ? each
      : best,
  )
}
