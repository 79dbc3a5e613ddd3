import type { PatternNode } from '@/core/display'
import { boxHolds, compose } from '@/core/path'
import type { NodePainter } from './painter'
import { layTiles, tilePixels } from './tile'

/** A layer across an edge of a tile shows on the opposite side, too. */
const AROUND = [-1, 0, 1]

export const patternPainter: NodePainter<PatternNode> = {
  type: 'pattern',
  paint: (brush, context, { box, tile, scale, turn, drift, children }, transform) => {
    const width = tile.width * scale
    const height = tile.height * scale
    if (!(box.width > 0 && box.height > 0 && width > 0 && height > 0) || children.length === 0) return
    const pixels = tilePixels(width, height, transform)
    const surface = brush.makeSurface(pixels.width, pixels.height)
    const sx = pixels.width / tile.width
    const sy = pixels.height / tile.height
    // An effect on the tile as a whole is applied once.
    for (const child of children)
      for (const down of child.changesBehind ? [0] : AROUND)
        for (const across of child.changesBehind ? [0] : AROUND)
          brush.draw(
            surface,
            child,
            compose([sx, 0, 0, sy, 0, 0], [1, 0, 0, 1, (across + 0.5) * tile.width, (down + 0.5) * tile.height]),
          )
    const opacity = context.globalAlpha
    layTiles(context, surface, transform, { box, width, height, drift, turn })
    context.globalAlpha = opacity
  },
  hits: ({ box }, point) => boxHolds(box, point),
}
