import type { BrushStroke } from '../../effects'
import type { Picture } from '../../image'

/** Pixels whose values lie further apart than this over a loop are seen to move, of 255: more than grain and compression do. */
const MOVES = 24

/** Cells of a picture, row by row, and which of them move. */
export interface Region {
  readonly across: number
  readonly down: number
  readonly cells: readonly boolean[]
}

/** Where a loop moves, of small pictures of its frames, all of one size: each of their pixels is a cell. */
export function movingRegion(pictures: readonly Picture[]): Region {
  const [first] = pictures
  if (!first) return { across: 0, down: 0, cells: [] }
  const cells = Array.from({ length: first.data.length / 4 }, (_, cell) => {
    for (let i = 4 * cell; i < 4 * cell + 4; i++) {
      let least = 255
      let most = 0
      for (const { data } of pictures) {
        const value = data[i]
        if (value < least) least = value
        if (value > most) most = value
      }
      if (most - least > MOVES) return true
    }
    return false
  })
  return { across: first.width, down: first.height, cells }
}

/** How much of a picture a region is. */
export const shareOf = ({ cells }: Region): number => cells.filter(Boolean).length / Math.max(1, cells.length)

/** A cell that moves with none beside it is taken for a flicker of the footage. */
const hasCompany = ({ across, down, cells }: Region, x: number, y: number): boolean => {
  for (let dy = -1; dy <= 1; dy++)
    for (let dx = -1; dx <= 1; dx++) {
      const nx = x + dx
      const ny = y + dy
      if ((dx || dy) && nx >= 0 && ny >= 0 && nx < across && ny < down && cells[ny * across + nx]) return true
    }
  return false
}

/** How wide the brush is, in cells: what is painted reaches over the region on all sides. */
const WIDE = 3
const SOFT = 0.4

/** Strokes of a brush that cover a region, along each of its rows; about the middle of a picture of a size, px. */
export function strokesOver(region: Region, width: number, height: number): BrushStroke[] {
  const { across, down, cells } = region
  const w = width / across
  const h = height / down
  const strokes: BrushStroke[] = []
  for (let y = 0; y < down; y++)
    for (let x = 0; x < across; x++) {
      if (!cells[y * across + x] || !hasCompany(region, x, y)) continue
      const from = x
      while (x + 1 < across && cells[y * across + x + 1]) x++
      const py = (y + 0.5) * h - height / 2
      const points = [from, x].flatMap((at) => [(at + 0.5) * w - width / 2, py, 1])
      strokes.push({ size: WIDE * Math.max(w, h), softness: SOFT, strength: 1, points })
    }
  return strokes
}
