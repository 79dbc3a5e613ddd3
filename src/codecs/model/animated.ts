import type { GLTF, mat4, vec3, vec4 } from '@gltf-transform/core'
import type { ModelMotion } from '@/core/output'
import { inverseOf, placedParts, type SpacePlacement } from '@/core/solid'
import { makeGlb, openGlb } from './glb'
import { ModelError } from './model-error'
import { standing } from './standing'

const FLOAT = 5126
type Path = 'translation' | 'rotation' | 'scale'

/** A GLB being extended by one animation. Data is appended behind the bytes that it has. */
class AnimatedFile {
  readonly json: GLTF.IGLTF
  readonly nodes: GLTF.INode[]
  private readonly accessors: GLTF.IAccessor[]
  private readonly views: GLTF.IBufferView[]
  readonly channels: GLTF.IAnimationChannel[] = []
  readonly samplers: GLTF.IAnimationSampler[] = []
  private readonly bin: Uint8Array
  private readonly blocks: Float32Array[] = []
  private readonly start: number
  private size: number
  private readonly input: number

  constructor(
    opened: ReturnType<typeof openGlb>,
    times: readonly number[],
    private readonly decompose: (matrix: mat4, t: vec3, r: vec4, s: vec3) => void,
  ) {
    this.bin = opened.bin
    this.json = structuredClone(opened.json) as GLTF.IGLTF
    const { json } = this
    json.nodes ??= []
    json.accessors ??= []
    json.bufferViews ??= []
    json.scenes ??= []
    this.nodes = json.nodes
    this.accessors = json.accessors
    this.views = json.bufferViews
    this.start = (opened.bin.length + 3) & ~3
    this.size = this.start
    this.input = this.append(Float32Array.from(times), 'SCALAR', true)
  }

  /** Appends values as an accessor. @returns its index */
  private append(values: Float32Array, type: 'SCALAR' | 'VEC3' | 'VEC4', bounds: boolean): number {
    this.views.push({ buffer: 0, byteOffset: this.size, byteLength: values.byteLength })
    const accessor: GLTF.IAccessor = {
      bufferView: this.views.length - 1,
      componentType: FLOAT,
      count: values.length / { SCALAR: 1, VEC3: 3, VEC4: 4 }[type],
      type,
    }
    if (bounds) Object.assign(accessor, { min: [Math.min(...values)], max: [Math.max(...values)] })
    this.blocks.push(values)
    this.size += values.byteLength
    return this.accessors.push(accessor) - 1
  }

  private animate(node: number, path: Path, values: readonly (readonly number[])[]): void {
    const [first = []] = values
    const still = values.every((each) => each.every((x, i) => Math.abs(x - (first[i] ?? 0)) < 1e-7))
    if (still) return
    const output = this.append(Float32Array.from(values.flat()), path === 'rotation' ? 'VEC4' : 'VEC3', false)
    this.samplers.push({ input: this.input, output, interpolation: 'LINEAR' })
    this.channels.push({ sampler: this.samplers.length - 1, target: { node, path } })
  }

  private transformOf(placement: SpacePlacement): Transform {
    const translation: vec3 = [0, 0, 0]
    const rotation: vec4 = [0, 0, 0, 1]
    const scale: vec3 = [1, 1, 1]
    this.decompose([...placement] as mat4, translation, rotation, scale)
    return { translation, rotation, scale }
  }

  /** Moves a node through placements, one for each time. */
  move(node: number, placements: readonly SpacePlacement[]): void {
    const transforms = placements.map((placement) => this.transformOf(placement))
    alignRotations(transforms)
    const target = this.nodes[node]
    if (!target || !transforms[0]) return
    delete target.matrix
    Object.assign(target, transforms[0])
    for (const path of ['translation', 'rotation', 'scale'] as const)
      this.animate(
        node,
        path,
        transforms.map((transform) => transform[path]),
      )
  }

  /** The finished file. */
  bytes(): Uint8Array<ArrayBuffer> {
    this.json.buffers = [{ ...this.json.buffers?.[0], byteLength: this.size }]
    const bin = new Uint8Array(this.size)
    bin.set(this.bin)
    let at = this.start
    for (const block of this.blocks) {
      bin.set(new Uint8Array(block.buffer, block.byteOffset, block.byteLength), at)
      at += block.byteLength
    }
    return makeGlb(this.json, bin)
  }
}

interface Transform {
  readonly translation: vec3
  readonly rotation: vec4
  readonly scale: vec3
}

/** Negates quaternions where that brings them nearer to the one before: a rotation and its negative are the same. */
function alignRotations(transforms: readonly Transform[]): void {
  let before: vec4 | undefined
  for (const { rotation } of transforms) {
    if (before && before.reduce((sum, x, k) => sum + x * (rotation[k] ?? 0), 0) < 0)
      for (const [k, x] of rotation.entries()) rotation[k] = -x
    before = rotation
  }
}

/** A rotation about a pivot as a placement; the rotation is a 3 × 3 matrix, column by column. */
function turnAbout([x, y, z]: ModelMotion['turn']['pivot'], rotation: readonly number[]): SpacePlacement {
  const [a, b, c, d, e, f, g, h, i] = rotation as [
    number,
    number,
    number,
    number,
    number,
    number,
    number,
    number,
    number,
  ]
  return [a, b, c, 0, d, e, f, 0, g, h, i, 0, x, y, z, 1]
}

/**
 * A GLB with the motion of a loop added to it: its nodes, names, placements and extra data stay to the last digit, except
 * that moving nodes have their placement written as translation, rotation and scale. Turns are linear keys at most a
 * quarter turn apart, so that none goes back the long way, and the last key equals the first, one loop later.
 * @throws ModelError
 */
export async function animatedGlb(
  file: string,
  bytes: Uint8Array,
  motion: ModelMotion,
): Promise<Uint8Array<ArrayBuffer>> {
  const { MathUtils } = await import('@gltf-transform/core')
  const animated = new AnimatedFile(openGlb(file, bytes), motion.times, MathUtils.decompose)
  const { json, nodes } = animated
  const { rest, roots } = await standing(json)
  for (const { node, placements } of motion.parts) {
    const at = rest.get(node)
    if (!at) throw new ModelError(`${file} has no part number ${node}. Bring the model in again.`)
    const back = inverseOf(at.parent)
    animated.move(
      node,
      placements.map((changed) => placedParts(back, placedParts(changed, placedParts(at.parent, at.own)))),
    )
  }
  // The whole turns about its pivot, which stays where the file has it.
  const [x, y, z] = motion.turn.pivot
  nodes.push({ name: `${motion.name}: pivot`, translation: [-x, -y, -z], children: [...roots] })
  const turning = nodes.push({ name: `${motion.name}: turn`, translation: [x, y, z], children: [nodes.length - 1] }) - 1
  animated.move(
    turning,
    motion.rotations.map((rotation) => turnAbout(motion.turn.pivot, rotation)),
  )
  if (animated.channels.length === 0) throw new ModelError(`${motion.name} does not move: there is no motion to write.`)
  putRoot(json, turning)
  json.animations = [
    ...(json.animations ?? []),
    {
      name: motion.name,
      samplers: animated.samplers,
      channels: animated.channels,
      extras: { closesAfterSeconds: motion.times.at(-1), folds: foldsByNode(motion, turning) },
    },
  ]
  return animated.bytes()
}

/** Makes a node the only root of the scene that is shown. */
function putRoot(json: GLTF.IGLTF, node: number): void {
  const scene = json.scenes?.[json.scene ?? 0]
  if (scene) scene.nodes = [node]
  else json.scenes = [...(json.scenes ?? []), { nodes: [node] }]
  json.scene ??= 0
}

/** Folds of all that turns, by node: the parts of a turn after which it looks the same. */
const foldsByNode = (motion: ModelMotion, turning: number): Record<string, number> =>
  Object.fromEntries([[turning, motion.fold], ...motion.parts.map(({ node, fold }) => [node, fold] as const)])

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
