import { type Picture, reducePicture } from '../../image'

/** Width to which each cell is reduced, px. */
export const CELL = 2
/** Frames about the seam at which a region is to agree with itself, and how much each counts. */
export const ABOUT = [
  [-2, 0.15],
  [-1, 0.35],
  [0, 0.35],
  [1, 0.15],
] as const

/** Small pictures of a clip, cells of a few px each. */
export interface Cells {
  readonly across: number
  readonly down: number
  /** Contents of each cell at a frame: CELL² bytes each, cell by cell, frame by frame. */
  readonly frames: readonly Uint8Array[]
  readonly each: number
}

/** How far the values of a cell are apart at two frames: the mean of their squares. */
export function cellDistance({ frames, each }: Cells, cell: number, i: number, j: number): number {
  const a = frames[i]
  const b = frames[j]
  let sum = 0
  for (let k = cell * each, end = k + each; k < end; k++) {
    const by = a[k] - b[k]
    sum += by * by
  }
  return sum / each
}

/** A picture in cells; on black where it is clear. */
export function cellsOf(picture: Picture, wide: number): { across: number; down: number; values: Uint8Array } {
  const small = reducePicture(picture, Math.max(wide, Math.round((wide * picture.height) / picture.width)) * CELL)
  const across = Math.max(1, Math.floor(small.width / CELL))
  const down = Math.max(1, Math.floor(small.height / CELL))
  const values = new Uint8Array(across * down * CELL * CELL * 3)
  let at = 0
  for (let y = 0; y < down; y++)
    for (let x = 0; x < across; x++)
      for (let dy = 0; dy < CELL; dy++)
        for (let dx = 0; dx < CELL; dx++) {
          const i = 4 * ((y * CELL + dy) * small.width + x * CELL + dx)
          const alpha = small.data[i + 3] / 255
          for (let c = 0; c < 3; c++) values[at++] = small.data[i + c] * alpha
        }
  return { across, down, values }
}
