import { SAME_VIEW, type SceneView, seenAt } from '../footage'
import type { Picture } from '../image'
import { seeded } from '../random'

/** The picture of a made clip as a function of place and time: footage with every answer known. */
export interface Filmed {
  readonly width: number
  readonly height: number
  readonly frames: number
  readonly seed: number
  /** Light at a place of the scene, in widths from the middle, at a frame: 0 … 255 each of red, green and blue. */
  readonly scene: (x: number, y: number, n: number, into: Float64Array) => void
  /** Where in the scene each place of the picture lies. */
  readonly view?: (n: number) => SceneView
  /** How bright the lamps or the exposure are, as a factor. */
  readonly light?: (n: number, row: number) => number
  /** Looks a pixel, along each side: with more, edges are as soft as a lens has them. */
  readonly looks?: number
  /** Grain, as a standard deviation of 255. */
  readonly grain?: number
}

/** A smooth random field on a lattice of whole places, −1 … 1. */
export function field(seed: number, x: number, y: number, z = 0): number {
  const x0 = Math.floor(x)
  const y0 = Math.floor(y)
  const z0 = Math.floor(z)
  const ease = (t: number) => t * t * (3 - 2 * t)
  const fx = ease(x - x0)
  const fy = ease(y - y0)
  const fz = ease(z - z0)
  const at = (dx: number, dy: number, dz: number) => seeded(seed, x0 + dx, y0 + dy, z0 + dz) * 2 - 1
  const flat = (dz: number) => {
    const top = at(0, 0, dz) + fx * (at(1, 0, dz) - at(0, 0, dz))
    const bottom = at(0, 1, dz) + fx * (at(1, 1, dz) - at(0, 1, dz))
    return top + fy * (bottom - top)
  }
  return fz === 0 ? flat(0) : flat(0) + fz * (flat(1) - flat(0))
}

/** The picture of a frame. */
export function filmed(clip: Filmed, n: number): Picture {
  const { width, height, seed, scene, view, light, looks = 2, grain = 0 } = clip
  const data = new Uint8ClampedArray(4 * width * height)
  const by = view?.(n) ?? SAME_VIEW
  const rgb = new Float64Array(3)
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i += 4) {
      let r = 0
      let g = 0
      let b = 0
      for (let look = 0; look < looks * looks; look++) {
        const dx = ((look % looks) + 0.5) / looks
        const dy = (Math.floor(look / looks) + 0.5) / looks
        const [sx, sy] = seenAt(by, (x + dx - width / 2) / width, (y + dy - height / 2) / width)
        scene(sx, sy, n, rgb)
        r += (rgb[0] as number) / (looks * looks)
        g += (rgb[1] as number) / (looks * looks)
        b += (rgb[2] as number) / (looks * looks)
      }
      const bright = light?.(n, y / height) ?? 1
      const rough = grain > 0 ? grain * gaussian(seed, n, i) : 0
      data[i] = r * bright + rough
      data[i + 1] = g * bright + rough
      data[i + 2] = b * bright + rough
      data[i + 3] = 255
    }
  return { width, height, data }
}

/** Of a standard deviation of about one: the sum of four even ones. */
const gaussian = (a: number, b: number, c: number): number =>
  (seeded(a, b, c) + seeded(a + 1, b, c) + seeded(a + 2, b, c) + seeded(a + 3, b, c) - 2) * Math.sqrt(3)

/** A quay wall of stones that stands: what a camera can be told by. */
export function wall(x: number, y: number, into: Float64Array, seed = 3): void {
  const stone = field(seed, x * 9 + 20, y * 12 + 20)
  const rough = field(seed + 1, x * 45, y * 45)
  const row = Math.floor(y * 14)
  const along = x * 8 + row * 0.5 - Math.floor(x * 8 + row * 0.5)
  // Mortar, as soft as a lens has it.
  const mortar = (away: number, wide: number) => Math.max(0, 1 - (away / wide) ** 2) ** 2
  const side = mortar(0.5 - Math.abs(along - 0.5), 0.06)
  const bed = mortar(0.5 - Math.abs(y * 14 - row - 0.5), 0.1)
  const joint = -30 * Math.max(side, bed)
  const value = 92 + 38 * stone + 16 * rough + joint
  into[0] = value * 0.96
  into[1] = value
  into[2] = value * 1.05
}
