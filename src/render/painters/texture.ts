import type { TextureNode } from '@/core/display'
import { boxHolds, type Matrix } from '@/core/path'
import { texturePicture } from '@/core/texture'
import type { Brush, Context, NodePainter } from './painter'
import { layTiles, tilePixels } from './tile'

/** Tiles that are kept, of all textures of a painter. */
const MAX_TILES = 6

const tiles = new WeakMap<object, Map<string, Context>>()

/** One tile as a surface; the same one as long as only where it lies changes. */
function tileOf(brush: Brush, { spec, box }: TextureNode, transform: Matrix): Context {
  const { width, height } = tilePixels(box.width, box.height, transform)
  const kept = tiles.get(brush) ?? new Map<string, Context>()
  tiles.set(brush, kept)
  const key = `${width} ${height} ${JSON.stringify(spec)}`
  const known = kept.get(key)
  if (known) {
    kept.delete(key)
    kept.set(key, known)
    return known
  }
  const surface = brush.makeSurface(width, height)
  const image = surface.createImageData(width, height)
  image.data.set(texturePicture(spec, width, height).data)
  surface.putImageData(image, 0, 0)
  kept.set(key, surface)
  for (const [oldest] of kept) {
    if (kept.size <= MAX_TILES) break
    kept.delete(oldest)
  }
  return surface
}

export const texturePainter: NodePainter<TextureNode> = {
  type: 'texture',
  paint: (brush, context, node, transform) => {
    const { box, drift, turn } = node
    if (box.width <= 0 || box.height <= 0) return
    const tile = tileOf(brush, node, transform)
    layTiles(context, tile, transform, { box, width: box.width, height: box.height, drift, turn })
  },
  hits: ({ box }, point) => boxHolds(box, point),
}
