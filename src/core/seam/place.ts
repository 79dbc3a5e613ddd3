const ROWS = ['at the top', 'in the middle', 'at the bottom'] as const
const COLUMNS = ['left', '', 'right'] as const

/** Where in the frame a place is, in words. */
export function placeWords({ x, y }: { readonly x: number; readonly y: number }): string {
  const third = (share: number) => Math.min(2, Math.max(0, Math.floor(3 * share)))
  return `${ROWS[third(y)]} ${COLUMNS[third(x)]}`.trim()
}
