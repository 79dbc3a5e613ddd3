import {
  Color,
  DirectionalLight,
  FloatType,
  Group,
  HemisphereLight,
  Matrix4,
  NearestFilter,
  type Object3D,
  OrthographicCamera,
  PerspectiveCamera,
  Scene,
  Vector3,
  WebGLRenderTarget,
} from 'three'
import type { ModelNode } from '@/core/display'
import { reach, type Vector } from '@/core/solid'
import { ModelGround } from './ground'
import { throughLens } from './lens'
import type { DrawnModel, ModelPiece } from './model'
import { encoded, reduced } from './numbers'
import { bakeOcclusion } from './occlusion'
import { Passes } from './passes'
import { surfaceAt } from './surface'

/** At most this many pixels are drawn as numbers at a time. */
const MAX_NUMBER_PIXELS = 2 ** 21
/** Passes that hold numbers; the others hold colours, which files have encoded. */
const NUMBERS: readonly ModelNode['look']['pass'][] = ['depth', 'normals']
/** At what size a node is drawn, and how. */
interface Room {
  readonly width: number
  readonly height: number
  readonly rows?: number
  readonly ground?: ImageBitmap
  readonly measured?: boolean
}

/** Scenes that were made: each has a number of its own. */
let made = 0

export class DrawnScene implements DrawnModel {
  private readonly number = made++
  private readonly world = new Scene()
  /** The model as it has turned. */
  private readonly turning = new Group()
  private readonly lamps: readonly DirectionalLight[]
  private readonly lampStand = new Group()
  private readonly around = new HemisphereLight()
  private readonly perspective = new PerspectiveCamera()
  private readonly parallel = new OrthographicCamera()
  private readonly ground = new ModelGround()
  private readonly passes: Passes
  /** Once for all who ask, at once too: what is baked again would be put in the place of what others draw with. */
  private baking: Promise<void> | null = null
  /** Where each node stands in the file, and its own matrix. */
  private readonly rest = new Map<number, { readonly world: Matrix4; readonly own: Matrix4 }>()

  constructor(
    scene: Object3D,
    private readonly nodes: ReadonlyMap<number, Object3D>,
    private readonly pieces: readonly ModelPiece[],
  ) {
    scene.updateMatrixWorld(true)
    for (const [index, object] of nodes) {
      this.rest.set(index, { world: object.matrixWorld.clone(), own: object.matrix.clone() })
      object.matrixAutoUpdate = false
    }
    this.passes = new Passes(pieces)
    this.turning.matrixAutoUpdate = false
    this.turning.add(scene)
    this.lamps = [0, 1, 2].map(() => new DirectionalLight())
    for (const lamp of this.lamps) this.lampStand.add(lamp, lamp.target)
    this.lampStand.matrixAutoUpdate = false
    this.world.add(this.turning, this.lampStand, this.around, this.ground.group)
    for (const { mesh } of pieces) {
      mesh.castShadow = true
      mesh.receiveShadow = true
    }
  }

  bakeOcclusion(): Promise<void> {
    this.baking ??= this.bake()
    return this.baking
  }

  private async bake(): Promise<void> {
    // As the file has it: not turned, and no part of it moved.
    for (const [index, object] of this.nodes) object.matrix.copy((this.rest.get(index) as { own: Matrix4 }).own)
    this.turning.matrix.identity()
    this.turning.updateMatrixWorld(true)
    this.passes.occlusion = await bakeOcclusion(this.pieces)
  }

  draw(node: ModelNode, width: number, height: number, ground?: ImageBitmap): CanvasImageSource {
    const surface = surfaceAt(width, height)
    const { renderer, canvas } = surface
    // Copies of a layer show the same.
    const { camera: sight, placement, parts, look, box } = node
    const shows = ground ? null : JSON.stringify([this.number, sight, placement, parts, look, box.width, width, height])
    if (shows !== null && shows === surface.shows) return canvas
    surface.shows = null
    const camera = this.ready(node, { width, height, ...(ground && { ground }) })
    try {
      if (node.look.aperture <= 0 || node.camera.fieldOfView === null) {
        renderer.render(this.world, camera)
        surface.shows = shows
        return canvas
      }
      return throughLens(node, this.world, camera as PerspectiveCamera, width, height)
    } finally {
      this.passes.giveBack()
    }
  }

  deep(node: ModelNode, width: number, height: number, measured: boolean): Float32Array<ArrayBuffer> {
    const surface = surfaceAt()
    const { renderer } = surface
    surface.shows = null
    // Measured passes have no smooth edges: a mean of near and far would lie where nothing is.
    const times = measured ? 1 : 2
    const across = times * width
    const down = times * height
    const rows = times * Math.min(height, Math.max(1, Math.floor(MAX_NUMBER_PIXELS / (times * across))))
    const camera = this.ready(node, { width: across, height: down, rows, measured })
    const target = new WebGLRenderTarget(across, rows, {
      type: FloatType,
      minFilter: NearestFilter,
      magFilter: NearestFilter,
    })
    const read = new Float32Array(4 * across * rows)
    const out = new Float32Array(4 * width * height)
    try {
      for (let top = 0; top < down; top += rows) {
        camera.setViewOffset(across, down, 0, top, across, rows)
        renderer.setRenderTarget(target)
        renderer.clear()
        renderer.render(this.world, camera)
        renderer.readRenderTargetPixels(target, 0, 0, across, rows, read)
        const count = Math.min(rows, down - top) / times
        reduced(read, { across, rows, times, count }, out.subarray((4 * width * top) / times))
      }
    } finally {
      camera.clearViewOffset()
      renderer.setRenderTarget(null)
      target.dispose()
      this.passes.giveBack()
    }
    if (measured && node.look.pass === 'normals')
      for (let i = 0; i < out.length; i++) if (i % 4 < 3) out[i] = 2 * out[i] - 1
    if (!NUMBERS.includes(node.look.pass)) for (let i = 0; i < out.length; i++) if (i % 4 < 3) out[i] = encoded(out[i])
    return out
  }

  /** Prepares the scene of a node at a size, for the whole picture or a band of rows. */
  private ready(
    node: ModelNode,
    { width, height, rows = height, ground, measured = false }: Room,
  ): PerspectiveCamera | OrthographicCamera {
    const { renderer, surround } = surfaceAt()
    const { look } = node
    this.place(node)
    this.light(node)
    this.world.environment = surround
    this.world.environmentIntensity = look.surround.strength
    this.ground.prepare(node, renderer, this.turning, ground)
    this.passes.take(look, width / Math.max(1, node.box.width), width, rows)
    this.ground.show(look)
    const background = look.pass === 'colour' && look.ground === 'colour' ? new Color(look.groundColour) : null
    renderer.setClearColor(background ?? 0x000000, background || look.pass === 'alpha' ? 1 : 0)
    return this.camera(node, width / height, measured)
  }

  dispose(): void {
    for (const { mesh } of this.pieces) mesh.geometry.dispose()
    this.ground.dispose()
    this.passes.dispose()
  }

  /** The model as it has turned, with its parts where they have moved. */
  private place({ placement, parts }: ModelNode): void {
    const alone = parts.filter(({ seen }) => seen === 'alone').map(({ node }) => node)
    for (const [index, object] of this.nodes) {
      object.matrix.copy((this.rest.get(index) as { own: Matrix4 }).own)
      object.visible = true
    }
    for (const { mesh } of this.pieces) mesh.visible = true
    for (const { node, seen, placement: moved } of parts) {
      const object = this.nodes.get(node)
      const rest = this.rest.get(node)
      if (!object || !rest) continue
      // In the coordinates of the model, before its own placement: parent⁻¹ · moved · world.
      const parent = rest.world.clone().multiply(rest.own.clone().invert())
      object.matrix.copy(
        parent
          .invert()
          .multiply(new Matrix4().fromArray([...moved]))
          .multiply(rest.world),
      )
      if (seen === 'hidden') object.visible = false
    }
    if (alone.length > 0)
      for (const piece of this.pieces) {
        let object: Object3D | null = piece.mesh
        const held = new Set(alone.map((node) => this.nodes.get(node)))
        while (object && !held.has(object)) object = object.parent
        piece.mesh.visible = object !== null
      }
    this.turning.matrix.fromArray([...placement])
    this.turning.updateMatrixWorld(true)
  }

  private light({ look, size, placement, turn }: ModelNode): void {
    for (const [i, lamp] of this.lamps.entries()) {
      const { strength, around, height, colour } = look.lights[i]
      const a = (around * Math.PI) / 180
      const h = (height * Math.PI) / 180
      const far = 4 * size
      lamp.position.set(far * Math.sin(a) * Math.cos(h), far * Math.sin(h), far * Math.cos(a) * Math.cos(h))
      lamp.color.set(colour)
      lamp.intensity = strength
      lamp.castShadow = i === 0 && strength > 0
    }
    // Lamps that turn with the model turn about its pivot, which is the origin.
    this.lampStand.matrix.identity()
    if (look.lightsTurn) {
      const pivot = new Matrix4().makeTranslation(...(turn.pivot as unknown as [number, number, number]))
      this.lampStand.matrix.fromArray([...placement]).multiply(pivot)
    }
    this.lampStand.updateMatrixWorld(true)
    const key = this.lamps[0]
    const r = 1.6 * size
    const { camera, mapSize } = key.shadow
    Object.assign(camera, { left: -r, right: r, top: r, bottom: -r, near: 0.1 * size, far: 9 * size })
    camera.updateProjectionMatrix()
    mapSize.set(1024, 1024)
    key.shadow.radius = 3
    key.shadow.normalBias = 0.006 * size
    key.shadow.bias = -0.0004
    this.around.color.set(look.surround.colour)
    this.around.groundColor.set(look.surround.colour).multiplyScalar(0.35)
    this.around.intensity = 0.8 * look.surround.strength
  }

  private camera(
    { camera, hull, turn, size }: ModelNode,
    aspect: number,
    measured: boolean,
  ): PerspectiveCamera | OrthographicCamera {
    const { from, at, up, fieldOfView, height } = camera
    const used = fieldOfView === null ? this.parallel : this.perspective
    used.up.set(...up)
    used.position.set(...from)
    used.lookAt(new Vector3(...at))
    const away = new Vector3(...at).sub(used.position)
    const distance = Math.max(1e-9, away.length())
    const forward = away.clone().divideScalar(distance)
    const plane = used.position.dot(forward)
    const far = reach(hull, turn, forward.toArray() as unknown as Vector) - plane
    // The ground goes on behind the model.
    used.far = Math.max(distance, far) + 30 * size
    used.near = Math.max(distance * 0.01, 1e-4 * size)
    const nearest = -reach(hull, turn, forward.clone().negate().toArray() as unknown as Vector) - plane
    this.passes.setDepth(nearest, far, measured)
    if (used instanceof PerspectiveCamera) {
      used.fov = ((fieldOfView as number) * 180) / Math.PI
      used.aspect = aspect
      used.clearViewOffset()
    } else
      Object.assign(used, {
        left: (-height * aspect) / 2,
        right: (height * aspect) / 2,
        top: height / 2,
        bottom: -height / 2,
      })
    used.updateProjectionMatrix()
    return used
  }
}
