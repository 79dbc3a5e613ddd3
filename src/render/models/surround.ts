import {
  CubeReflectionMapping,
  CubeTexture,
  DataTexture,
  DataUtils,
  HalfFloatType,
  LinearFilter,
  LinearMipmapLinearFilter,
  LinearSRGBColorSpace,
  RGBAFormat,
} from 'three'
import { dot, unit, type Vector } from '@/core/solid'

/** Side of what is mirrored, px, and the sizes to which it is reduced for rougher surfaces: so smooth a room needs no more. */
const SIDE = 32
const LEVELS = 6

/** A bright pane of the room: from where it shines, how bright it is and how sharply it ends. */
interface Pane {
  readonly from: Vector
  readonly bright: number
  readonly sharpness: number
}

const PANES: readonly Pane[] = [
  { from: [0, 1, 0.15], bright: 4.2, sharpness: 9 },
  { from: [-1, 0.25, 0.35], bright: 2.6, sharpness: 16 },
  { from: [1, 0.2, -0.4], bright: 1.8, sharpness: 22 },
].map((pane) => ({ ...pane, from: unit(pane.from as unknown as Vector) }))
const WALL = 0.42
const FLOOR = 0.16

/** Light from a direction as a surface of a roughness mirrors it: panes are spherical Gaussians, which a rough surface makes wider and no brighter (Wang et al. 2009). */
function lightFrom(way: Vector, roughness: number): number {
  const spread = 2 * roughness ** 4
  const up = Math.min(1, Math.max(0, 0.5 + way[1] / (0.5 + 1.5 * roughness)))
  let sum = FLOOR + (WALL - FLOOR) * up * up * (3 - 2 * up)
  for (const { from, bright, sharpness } of PANES) {
    const wide = 1 / (1 / sharpness + spread)
    sum += bright * (wide / sharpness) * Math.exp(wide * (dot(way, from) - 1))
  }
  return sum
}

/** The direction of a spot on one of the six faces of a cube (OpenGL ES 3.0, 3.8.10), u and v from −1 to 1. */
const wayOf = (face: number, u: number, v: number): Vector =>
  unit(
    (
      [
        [1, -v, -u],
        [-1, -v, u],
        [u, 1, v],
        [u, -1, -v],
        [u, -v, 1],
        [-u, -v, -1],
      ] as const
    )[face] as Vector,
  )

function faceOf(face: number, side: number, roughness: number): DataTexture {
  const data = new Uint16Array(side * side * 4)
  const one = DataUtils.toHalfFloat(1)
  for (let y = 0; y < side; y++)
    for (let x = 0; x < side; x++) {
      const way = wayOf(face, (2 * (x + 0.5)) / side - 1, (2 * (y + 0.5)) / side - 1)
      const light = DataUtils.toHalfFloat(lightFrom(way, roughness))
      data.set([light, light, light, one], 4 * (y * side + x))
    }
  return new DataTexture(data, side, side, RGBAFormat, HalfFloatType)
}

const cubeOf = (side: number, roughness: number) => [0, 1, 2, 3, 4, 5].map((face) => faceOf(face, side, roughness))

/**
 * A light room with three bright panes for surfaces to mirror, already blurred for every roughness: worked out as numbers, since filtering a picture of a
 * room takes seconds where WebGL runs in software.
 */
export function surroundings(): CubeTexture {
  const texture = new CubeTexture(cubeOf(SIDE, 0) as never, CubeReflectionMapping)
  const last = LEVELS - 2
  const mipmaps = Array.from({ length: LEVELS - 1 }, (_, i) => {
    const level = i + 1
    // The roughness for which this size is looked up.
    const roughness = 1 - Math.sqrt(Math.max(0, 1 - Math.min(1, level / last)))
    return { image: cubeOf(SIDE >> level, roughness), width: SIDE >> i }
  })
  Object.assign(texture, { mipmaps, isPMREMTexture: true })
  texture.format = RGBAFormat
  texture.type = HalfFloatType
  texture.colorSpace = LinearSRGBColorSpace
  texture.minFilter = LinearMipmapLinearFilter
  texture.magFilter = LinearFilter
  texture.generateMipmaps = false
  texture.needsUpdate = true
  return texture
}
