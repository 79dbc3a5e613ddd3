import type { Picture } from '../image'
import { fractionalPart } from '../modulo'

/** How a surface of a model looks, alike all over but for its texture. */
export interface Surface {
  /** Numbers that differ where surfaces look otherwise: colour and alpha, metal, roughness, emitted light; each about 0 … 1. */
  readonly factors: readonly number[]
  /** Its texture; null where it has none. `unread` where its pixels are not known: then only the same place of it looks the same. */
  readonly texture: Picture | 'unread' | null
}

/** How a mesh looks. */
export interface Looks {
  readonly surfaces: readonly Surface[]
  /** The surface of each triangle, by its place among the surfaces. */
  readonly ofTriangle: Uint32Array
  /** Place in the texture of each vertex, u and v; nothing where no surface has a texture. */
  readonly coordinates: Float32Array | null
  /** Red, green and blue of each vertex, 0 … 1, which multiply its surface; nothing where none is coloured so. */
  readonly colours: Float32Array | null
}

/** The surface of what says nothing of how it looks. */
const PLAIN_SURFACE: Surface = { factors: [1, 1, 1, 1, 0, 1, 0, 0, 0], texture: null }

/** Looks that differ by less in every number are alike: compression of textures and rounding. */
const ALIKE = 0.08

export const looksAlike = (a: readonly number[], b: readonly number[]): boolean =>
  a.length === b.length && a.every((value, i) => Math.abs(value - b[i]) <= ALIKE)

/** Red, green and blue of a texture at a place, which repeats, 0 … 1. */
function texel({ width, height, data }: Picture, u: number, v: number): readonly number[] {
  const x = Math.min(width - 1, Math.floor(fractionalPart(u) * width))
  const y = Math.min(height - 1, Math.floor(fractionalPart(v) * height))
  const i = 4 * (y * width + x)
  return [0, 1, 2].map((c) => data[i + c] / 255)
}

/**
 * How a triangle looks at a point of it.
 * @param corners vertices of the triangle
 * @param shares of the three corners in the point, which add up to 1
 */
export function lookAt(
  { surfaces, ofTriangle, coordinates, colours }: Looks,
  triangle: number,
  corners: readonly [number, number, number],
  shares: readonly number[],
): readonly number[] {
  const surface = surfaces[ofTriangle[triangle]] ?? PLAIN_SURFACE
  const mixed = (values: Float32Array, size: number, k: number) =>
    corners.reduce((sum, corner, i) => sum + shares[i] * values[size * corner + k], 0)
  const factors = [...surface.factors]
  const tint = (c: number, by: number) => {
    factors[c] *= by
  }
  if (colours) for (let c = 0; c < 3; c++) tint(c, mixed(colours, 3, c))
  const { texture } = surface
  if (!texture || !coordinates) return factors
  const u = mixed(coordinates, 2, 0)
  const v = mixed(coordinates, 2, 1)
  if (texture === 'unread') return [...factors, fractionalPart(u), fractionalPart(v)]
  for (const [c, value] of texel(texture, u, v).entries()) tint(c, value)
  return factors
}

/** Looks of several meshes as one, in their order. @param of each mesh: its looks, vertices and triangles */
export function joinedLooks(
  of: readonly { readonly looks: Looks | undefined; readonly vertices: number; readonly triangles: number }[],
): Looks | undefined {
  if (of.every(({ looks }) => looks === undefined)) return undefined
  const vertices = of.reduce((sum, each) => sum + each.vertices, 0)
  const triangles = of.reduce((sum, each) => sum + each.triangles, 0)
  const surfaces: Surface[] = []
  const ofTriangle = new Uint32Array(triangles)
  const coordinates = of.some(({ looks }) => looks?.coordinates) ? new Float32Array(2 * vertices) : null
  const colours = of.some(({ looks }) => looks?.colours) ? new Float32Array(3 * vertices).fill(1) : null
  let vertex = 0
  let triangle = 0
  for (const { looks, vertices: own, triangles: count } of of) {
    const first = surfaces.length
    surfaces.push(...(looks?.surfaces ?? [PLAIN_SURFACE]))
    for (let t = 0; t < count; t++) ofTriangle[triangle + t] = first + (looks?.ofTriangle[t] ?? 0)
    if (looks?.coordinates) coordinates?.set(looks.coordinates, 2 * vertex)
    if (looks?.colours) colours?.set(looks.colours, 3 * vertex)
    vertex += own
    triangle += count
  }
  return { surfaces, ofTriangle, coordinates, colours }
}
