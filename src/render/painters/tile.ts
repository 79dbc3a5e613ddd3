import type { Box, Matrix, Point } from '@/core/path'
import type { Context } from './painter'

/** How a tile is laid over a box: its size in px of the layer, how far it is moved on, in tiles, and turned, about the middle of the box. */
export interface Laid {
  readonly box: Box
  readonly width: number
  readonly height: number
  readonly drift: Point
  readonly turn: number
}

/** Fills a box with a tile that goes on on all sides: as one pattern, so that nothing shows between one tile and the next. */
export function layTiles(context: Context, tile: Context, transform: Matrix, laid: Laid): void {
  const { box, width, height, drift, turn } = laid
  const surface = tile.canvas
  const pattern = context.createPattern(surface, 'repeat')
  if (!pattern) return
  context.save()
  context.setTransform(...transform)
  context.beginPath()
  context.rect(box.x, box.y, box.width, box.height)
  context.clip()
  context.translate(box.x + box.width / 2, box.y + box.height / 2)
  context.rotate((turn * Math.PI) / 180)
  context.translate((drift.x - 0.5) * width, (drift.y - 0.5) * height)
  const scaleX = width / surface.width
  const scaleY = height / surface.height
  context.scale(scaleX, scaleY)
  context.fillStyle = pattern
  // However it is turned and moved on, the box lies within this.
  const reach = Math.hypot(box.width, box.height) / 2 + Math.hypot(width, height)
  context.fillRect(-reach / scaleX, -reach / scaleY, (2 * reach) / scaleX, (2 * reach) / scaleY)
  context.restore()
}

/** The largest side of the picture of a tile, px. */
const MAX_TILE_PX = 4096

/** Size of a tile in px as it is drawn. */
export function tilePixels(width: number, height: number, [a, b, c, d]: Matrix): { width: number; height: number } {
  const pixels = (side: number, scale: number) => Math.max(1, Math.min(MAX_TILE_PX, Math.round(side * scale)))
  return { width: pixels(width, Math.hypot(a, b)), height: pixels(height, Math.hypot(c, d)) }
}
