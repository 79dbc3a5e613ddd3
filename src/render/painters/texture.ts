import type { TextureNode } from '@/core/display'
import { boxHolds, type Matrix } from '@/core/path'
import { texturePicture } from '@/core/texture'
import type { Brush, Context, NodePainter } from './painter'

/** Tiles that are kept, of all textures of a painter; and the largest side of one, px. */
const MOST_TILES = 6
const LARGEST = 4096

const tiles = new WeakMap<object, Map<string, Context>>()

/** One tile as a surface; the same one as long as only where it lies changes. */
function tileOf(brush: Brush, { spec, box }: TextureNode, [a, b, c, d]: Matrix): Context {
  const width = Math.max(1, Math.min(LARGEST, Math.round(box.width * Math.hypot(a, b))))
  const height = Math.max(1, Math.min(LARGEST, Math.round(box.height * Math.hypot(c, d))))
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
    if (kept.size <= MOST_TILES) break
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
    const { width, height } = tile.canvas
    context.save()
    context.setTransform(...transform)
    context.beginPath()
    context.rect(box.x, box.y, box.width, box.height)
    context.clip()
    const angle = (turn * Math.PI) / 180
    context.rotate(angle)
    context.scale(box.width / width, box.height / height)
    // Turned about the middle of the box, a disc round it has to be covered; upright, the box and what drifts in.
    const reach = turn % 360 === 0 ? [0.5, 0.5] : coverOf(box.width, box.height)
    const [across, down] = reach as [number, number]
    for (let y = Math.floor(-down - 0.5 + drift.y); y < down + 0.5; y++)
      for (let x = Math.floor(-across - 0.5 + drift.x); x < across + 0.5; x++)
        context.drawImage(tile.canvas, (x - 0.5 + drift.x) * width, (y - 0.5 + drift.y) * height)
    context.restore()
  },
  hits: ({ box }, point) => boxHolds(box, point),
}

/** How far a box reaches when it is turned, in its own sides from its middle. */
function coverOf(width: number, height: number): [number, number] {
  const radius = Math.hypot(width, height) / 2
  return [radius / width, radius / height]
}
