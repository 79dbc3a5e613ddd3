import type { Picture } from '../image'
import { modulo } from '../modulo'
import { seeded } from '../random'
import { LOOK_NAMES, type TextureSpec, texturePicture } from '../texture'

/** Kinds of picture on which edges are tried: those of textures, a board of squares, bricks, dots, and a photograph of a kind. */
export const TILE_KINDS = [...LOOK_NAMES, 'squares', 'bricks', 'dots', 'photograph'] as const
export const TILE_FAULTS = ['none', 'x', 'y', 'both', 'slight'] as const
export type TileFault = (typeof TILE_FAULTS)[number]

type Colour = readonly [number, number, number]

function painted(width: number, height: number, colour: (x: number, y: number) => Colour): Picture {
  const data = new Uint8ClampedArray(4 * width * height)
  for (let y = 0; y < height; y++) for (let x = 0; x < width; x++) data.set([...colour(x, y), 255], 4 * (y * width + x))
  return { width, height, data }
}

const BANDS: TextureSpec['ramp'] = { from: '#1c3a44', to: '#d8c39a', stops: [{ at: 0.5, colour: '#5f8f8a' }] }

/** A sound tile of a kind, with the given side in px. */
function sound(kind: string, side: number, seed: number): Picture {
  const wrapped = (value: number) => modulo(value, side)
  if (kind === 'squares')
    return painted(side, side, (x, y) => {
      const cell = side / 8
      return (Math.floor(x / cell) + Math.floor(y / cell)) % 2 === 0 ? [200, 180, 140] : [60, 90, 100]
    })
  if (kind === 'bricks')
    return painted(side, side, (x, y) => {
      const wide = side / 4
      const high = side / 8
      const row = Math.floor(y / high)
      const along = wrapped(x + (row % 2) * (wide / 2)) % wide
      const joint = along < 3 || y % high < 3
      const tone = Math.round(20 * seeded(seed, row, Math.floor(wrapped(x + (row % 2) * (wide / 2)) / wide)))
      return joint ? [190, 184, 170] : [140 + tone, 70 + tone, 55]
    })
  if (kind === 'dots')
    return painted(side, side, (x, y) => {
      for (let i = 0; i < 24; i++) {
        const dx = wrapped(x - side * seeded(seed, i, 1) + side / 2) - side / 2
        const dy = wrapped(y - side * seeded(seed, i, 2) + side / 2) - side / 2
        if (Math.hypot(dx, dy) < 5 + 9 * seeded(seed, i, 3)) return [242, 181, 74]
      }
      return [15, 59, 82]
    })
  const look = kind === 'photograph' ? 'clouds' : kind
  const shape = {
    cellsX: 3 + (seed % 3),
    cellsY: 3 + (seed % 2),
    octaves: kind === 'photograph' ? 6 : 4,
    roughness: kind === 'photograph' ? 0.7 : 0.5,
    warp: 0.5,
    steps: 1,
    seed,
    time: 0.3,
  }
  const made = look === 'grain' ? { ...shape, cellsX: side / 2, cellsY: side / 2 } : shape
  const picture = texturePicture({ look, shape: made, contrast: 1.2, ramp: BANDS }, side, side)
  if (kind !== 'photograph') return picture
  // With the noise of a sensor.
  const data = picture.data.map((value, i) => (i % 4 === 3 ? 255 : value + 10 * (seeded(seed, i, 9) - 0.5)))
  return { ...picture, data }
}

/** A part of a picture. */
function part(picture: Picture, width: number, height: number): Picture {
  const data = new Uint8ClampedArray(4 * width * height)
  for (let y = 0; y < height; y++)
    data.set(picture.data.subarray(4 * y * picture.width, 4 * (y * picture.width + width)), 4 * y * width)
  return { width, height, data }
}

/**
 * A picture with a fault in its edges, by kind and seed. `slight`: brighter from left to right just enough that its
 * edge is seen.
 */
export function tileCase(kind: string, fault: TileFault, seed: number, side = 160): Picture {
  const tile = sound(kind, side, seed)
  // Cut where features are cut through: neither at a whole one nor at a half.
  const cut = (on: boolean) => (on ? Math.round(side * (0.69 + 0.05 * seeded(seed, 7))) : side)
  const own = part(tile, cut(fault === 'x' || fault === 'both'), cut(fault === 'y' || fault === 'both'))
  if (fault !== 'slight') return own
  const data = own.data.map((value, i) => (i % 4 === 3 ? value : value + (14 * ((i >> 2) % own.width)) / own.width - 7))
  return { ...own, data }
}

/** Whether an axis has an edge. Grain that is cut through has none: its neighbours never belonged together. */
export const hasEdge = (kind: string, fault: TileFault, axis: 'x' | 'y'): boolean =>
  (kind !== 'grain' && (fault === axis || fault === 'both')) || (fault === 'slight' && axis === 'x')
