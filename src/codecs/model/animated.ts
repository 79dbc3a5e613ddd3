import type { GLTF, mat4, vec3, vec4 } from '@gltf-transform/core'
import type { ModelMotion } from '@/core/output'
import { inverseOf, placedParts, type SpacePlacement } from '@/core/solid'
import { makeGlb, openGlb } from './glb'
import { ModelError } from './model-error'
import { standing } from './standing'

const FLOAT = 5126
type Path = 'translation' | 'rotation' | 'scale'

/**
 * A GLB with the motion of a loop in it, after all that it held: its nodes, names, placements and extra data stay to the last digit; only what moves has its
 * placement written as translation, rotation and scale. Turns are linear keys at most a quarter turn apart, so that none goes back the long way, and the last key is the
 * first one loop later.
 * @throws ModelError
 */
export async function animatedGlb(
  file: string,
  bytes: Uint8Array,
  motion: ModelMotion,
): Promise<Uint8Array<ArrayBuffer>> {
  const { MathUtils } = await import('@gltf-transform/core')
  const opened = openGlb(file, bytes)
  const json = structuredClone(opened.json) as GLTF.IGLTF
  json.nodes ??= []
  json.accessors ??= []
  json.bufferViews ??= []
  json.scenes ??= []
  const nodes = json.nodes
  const pieces: Float32Array[] = []
  let size = (opened.bin.length + 3) & ~3
  const lay = (values: Float32Array, type: 'SCALAR' | 'VEC3' | 'VEC4', bounds: boolean): number => {
    json.bufferViews?.push({ buffer: 0, byteOffset: size, byteLength: values.byteLength })
    const accessor: GLTF.IAccessor = {
      bufferView: (json.bufferViews?.length ?? 1) - 1,
      componentType: FLOAT,
      count: values.length / { SCALAR: 1, VEC3: 3, VEC4: 4 }[type],
      type,
    }
    if (bounds) Object.assign(accessor, { min: [Math.min(...values)], max: [Math.max(...values)] })
    pieces.push(values)
    size += values.byteLength
    return (json.accessors?.push(accessor) ?? 1) - 1
  }
  const input = lay(Float32Array.from(motion.times), 'SCALAR', true)
  const samplers: GLTF.IAnimationSampler[] = []
  const channels: GLTF.IAnimationChannel[] = []
  const animate = (node: number, path: Path, values: readonly (readonly number[])[]) => {
    const flat = Float32Array.from(values.flat())
    const still = values.every((each) => each.every((x, i) => Math.abs(x - (values[0]?.[i] as number)) < 1e-7))
    if (still) return
    const output = lay(flat, path === 'rotation' ? 'VEC4' : 'VEC3', false)
    samplers.push({ input, output, interpolation: 'LINEAR' })
    channels.push({ sampler: samplers.length - 1, target: { node, path } })
  }
  const parted = (placement: SpacePlacement) => {
    const [t, r, s]: [vec3, vec4, vec3] = [
      [0, 0, 0],
      [0, 0, 0, 1],
      [1, 1, 1],
    ]
    MathUtils.decompose([...placement] as mat4, t, r, s)
    return { translation: t, rotation: r, scale: s }
  }
  const move = (node: number, placements: readonly SpacePlacement[]) => {
    const all = placements.map(parted)
    // A rotation and its negative are one: each is taken as near as it can be to the one before it.
    for (let i = 1; i < all.length; i++) {
      const before = all[i - 1]?.rotation as vec4
      const now = all[i]?.rotation as vec4
      if (before.reduce((sum, x, k) => sum + x * (now[k] as number), 0) < 0)
        for (let k = 0; k < 4; k++) now[k] = -(now[k] as number)
    }
    const first = all[0] as ReturnType<typeof parted>
    const target = nodes[node] as GLTF.INode
    delete target.matrix
    Object.assign(target, first)
    for (const path of ['translation', 'rotation', 'scale'] as const)
      animate(
        node,
        path,
        all.map((each) => each[path]),
      )
  }
  const { rest, roots } = await standing(json)
  for (const { node, placements } of motion.parts) {
    const at = rest.get(node)
    if (!at) throw new ModelError(`${file} has no part number ${node}. Bring the model in again.`)
    const back = inverseOf(at.parent)
    move(
      node,
      placements.map((changed) => placedParts(back, placedParts(changed, placedParts(at.parent, at.own)))),
    )
  }
  const scene = json.scenes[json.scene ?? 0]
  // The whole turns about its pivot, which stays where the file has it.
  const [x, y, z] = motion.turn.pivot
  nodes.push({ name: `${motion.name}: pivot`, translation: [-x, -y, -z], children: [...roots] })
  nodes.push({ name: `${motion.name}: turn`, translation: [x, y, z], children: [nodes.length - 1] })
  const whole = motion.rotations.map((r): SpacePlacement => {
    const [a, b, c, d, e, f, g, h, i] = r as [number, number, number, number, number, number, number, number, number]
    return [a, b, c, 0, d, e, f, 0, g, h, i, 0, x, y, z, 1]
  })
  move(nodes.length - 1, whole)
  if (scene) scene.nodes = [nodes.length - 1]
  else json.scenes.push({ nodes: [nodes.length - 1] })
  json.scene ??= 0
  if (channels.length === 0) throw new ModelError(`${motion.name} does not move: there is no motion to write.`)
  // After which parts of a turn what turns looks the same, by its node.
  const folds = Object.fromEntries([
    [nodes.length - 1, motion.fold],
    ...motion.parts.map(({ node, fold }) => [node, fold] as const),
  ])
  json.animations = [
    ...(json.animations ?? []),
    { name: motion.name, samplers, channels, extras: { closesAfterSeconds: motion.times.at(-1), folds } },
  ]
  json.buffers = [{ ...json.buffers?.[0], byteLength: size }]
  const bin = new Uint8Array(size)
  bin.set(opened.bin)
  let at = (opened.bin.length + 3) & ~3
  for (const piece of pieces) {
    bin.set(new Uint8Array(piece.buffer, piece.byteOffset, piece.byteLength), at)
    at += piece.byteLength
  }
  return makeGlb(json, bin)
}

/** Motion found in a GLB when it is read back. */
export interface ReadMotion {
  readonly closes: boolean
  /** The largest turn between the last key and the first, degrees, but for parts of a turn that look the same. */
  readonly degrees: number
  /** The largest difference of anything else. */
  readonly other: number
}

/** Reads a GLB back that was written here: whether the last key of everything that moves is the first one. @throws ModelError */
export async function readBackMotion(file: string, bytes: Uint8Array): Promise<ReadMotion> {
  const { WebIO } = await import('@gltf-transform/core')
  const { json, bin } = openGlb(file, bytes)
  // Pictures and how surfaces are painted have no say in it.
  const {
    images: _i,
    textures: _t,
    materials: _m,
    meshes: _s,
    extensionsRequired: _r,
    extensionsUsed: _u,
    ...plain
  } = json
  const nodes = plain.nodes?.map(({ mesh: _mesh, skin: _skin, ...node }) => node)
  const document = await new WebIO().readJSON({
    json: { ...plain, skins: [], ...(nodes && { nodes }) } as GLTF.IGLTF,
    resources: { '@glb.bin': new Uint8Array(bin) },
  })
  const animation = document.getRoot().listAnimations().at(-1)
  if (!animation) throw new ModelError(`${file} holds no motion.`)
  const { folds = {} } = animation.getExtras() as { readonly folds?: Readonly<Record<number, number>> }
  const all = document.getRoot().listNodes()
  let degrees = 0
  let other = 0
  for (const channel of animation.listChannels()) {
    const output = channel.getSampler()?.getOutput()
    if (!output) continue
    const at = (n: number): number[] => {
      const element: number[] = []
      output.getElement(n, element)
      return element
    }
    const first = at(0)
    const last = at(output.getCount() - 1)
    if (channel.getTargetPath() !== 'rotation') {
      other = Math.max(other, ...first.map((x, i) => Math.abs(x - (last[i] as number))))
      continue
    }
    const dot = Math.min(1, Math.abs(first.reduce((sum, x, i) => sum + x * (last[i] as number), 0)))
    const off = (2 * Math.acos(dot) * 180) / Math.PI
    const node = channel.getTargetNode()
    const same = 360 / (folds[node ? all.indexOf(node) : -1] ?? 1)
    const left = off % same
    degrees = Math.max(degrees, Math.min(left, same - left))
  }
  return { closes: degrees < 0.1 && other < 1e-4, degrees, other }
}
