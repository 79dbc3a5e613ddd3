import { BufferAttribute, BufferGeometry, type Matrix4, type Mesh, Ray, Vector3 } from 'three'
import { mergeGeometries } from 'three/examples/jsm/utils/BufferGeometryUtils.js'
import { MeshBVH } from 'three-mesh-bvh'
import { seeded } from '@/core/random'
import { finer } from '@/core/solid'
import type { ModelPiece } from './model'

/** Rays from each vertex. */
const RAYS = 32
/** Surfaces farther away than this share of the model's size hide nothing. */
const FAR = 0.35
/** Sides of triangles are no longer than this share of the size, so that shade has corners to lie in. */
const FINE = 1 / 22
/** A mesh is subdivided to at most this many triangles. */
const MAX_FINE_TRIANGLES = 40_000
/** Computation yields to other work after this time, ms. */
const BATCH_MS = 30

/**
 * How much of the sky each vertex of a model sees at rest: rays spread by the cosine over its half of it, a share of which hits something near (ambient
 * occlusion, Landis 2002). It does not change as a rigid model turns, so that no frame flickers.
 */
export async function bakeOcclusion(
  pieces: readonly Pick<ModelPiece, 'mesh'>[],
): Promise<ReadonlyMap<Mesh, BufferGeometry>> {
  // As it stands now: while others are let in, it may be drawn, and turned for that.
  const standing = new Map(pieces.map(({ mesh }) => [mesh, mesh.matrixWorld.clone()]))
  const placed = pieces.map(({ mesh }) => {
    const own = mesh.geometry.clone()
    for (const name of Object.keys(own.attributes)) if (name !== 'position') own.deleteAttribute(name)
    own.morphAttributes = {}
    return (own.index ? own.toNonIndexed() : own).applyMatrix4(mesh.matrixWorld)
  })
  const whole = mergeGeometries(placed)
  if (!whole) return new Map()
  whole.computeBoundingBox()
  const size = whole.boundingBox?.getSize(new Vector3()).toArray() ?? [1, 1, 1]
  const largest = Math.max(...size)
  const tree = new MeshBVH(whole)
  const baked = new Map<Mesh, BufferGeometry>()
  let since = performance.now()
  for (const { mesh } of pieces) {
    const stands = standing.get(mesh) as Matrix4
    const fine = fineSurface(mesh.geometry, (FINE * largest) / Math.max(stands.getMaxScaleOnAxis(), 1e-9))
    const positions = fine.getAttribute('position')
    const normals = fine.getAttribute('normal')
    const colours = new Float32Array(3 * positions.count)
    const known = new Map<string, number>()
    const at = new Vector3()
    const up = new Vector3()
    const way = new Vector3()
    const side = new Vector3()
    const other = new Vector3()
    for (let i = 0; i < positions.count; i++) {
      at.fromBufferAttribute(positions, i).applyMatrix4(stands)
      up.fromBufferAttribute(normals, i).transformDirection(stands)
      const key = [...at.toArray(), ...up.toArray()].map((x) => Math.round((x / largest) * 2000)).join(' ')
      let seen = known.get(key)
      if (seen === undefined) {
        side
          .set(Math.abs(up.x) < 0.9 ? 1 : 0, Math.abs(up.x) < 0.9 ? 0 : 1, 0)
          .cross(up)
          .normalize()
        other.crossVectors(up, side)
        const start = at.clone().addScaledVector(up, 2e-3 * largest)
        let free = 0
        for (let r = 0; r < RAYS; r++) {
          const u = (r + 0.5) / RAYS
          const v = seeded(r, 7) * 2 * Math.PI
          const across = Math.sqrt(u)
          way.copy(up).multiplyScalar(Math.sqrt(1 - u))
          way.addScaledVector(side, across * Math.cos(v)).addScaledVector(other, across * Math.sin(v))
          const hit = tree.raycastFirst(new Ray(start, way), 2, 0, FAR * largest)
          free += hit ? hit.distance / (FAR * largest) : 1
        }
        seen = free / RAYS
        known.set(key, seen)
      }
      colours.fill(seen, 3 * i, 3 * i + 3)
      if (performance.now() - since > BATCH_MS) {
        await new Promise((go) => setTimeout(go))
        since = performance.now()
      }
    }
    fine.setAttribute('color', new BufferAttribute(colours, 3))
    baked.set(mesh, fine)
  }
  return baked
}

/** A surface in triangles with no longer sides, with its normals. */
function fineSurface(surface: BufferGeometry, longest: number): BufferGeometry {
  const plain = surface.index ? surface.toNonIndexed() : surface
  const read = (name: string): Float32Array => {
    const attribute = plain.getAttribute(name)
    const values = new Float32Array(3 * attribute.count)
    for (let i = 0; i < attribute.count; i++)
      values.set([attribute.getX(i), attribute.getY(i), attribute.getZ(i)], 3 * i)
    return values
  }
  const { positions, normals } = finer(
    { positions: read('position'), normals: read('normal') },
    longest,
    MAX_FINE_TRIANGLES,
  )
  const made = new BufferGeometry()
  made.setAttribute('position', new BufferAttribute(positions, 3))
  made.setAttribute('normal', new BufferAttribute(normals, 3))
  return made
}
