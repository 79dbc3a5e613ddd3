import {
  CanvasTexture,
  CircleGeometry,
  DataTexture,
  DoubleSide,
  Group,
  LinearFilter,
  Mesh,
  MeshBasicMaterial,
  MeshStandardMaterial,
  type Object3D,
  OrthographicCamera,
  PlaneGeometry,
  Scene,
  ShaderMaterial,
  ShadowMaterial,
  SRGBColorSpace,
  type WebGLRenderer,
  WebGLRenderTarget,
} from 'three'
import type { ModelLook, ModelNode } from '@/core/display'
import { reach, turnedBy } from '@/core/solid'

/** Side of the picture of what stands close to the ground, px. */
const SIDE = 128
/** Parts higher above the ground than this share of the model's size throw no soft shadow below themselves. */
const CLOSE = 0.3
/** Steps of a mean by which the soft shadow is blurred, px each. */
const BLURS = [5, 5, 5]

/** Ground of a model: its shadow, a contact shadow, and a disc. */
export class ModelGround {
  readonly group = new Group()
  private readonly cast = new ShadowMaterial()
  private readonly plane = new Mesh(new PlaneGeometry(1, 1), this.cast)
  private readonly picture = new DataTexture(new Uint8Array(SIDE * SIDE * 4), SIDE, SIDE)
  private readonly close = new Mesh(
    new PlaneGeometry(1, 1),
    new MeshBasicMaterial({ map: this.picture, transparent: true, depthWrite: false, toneMapped: false }),
  )
  private readonly disc = new Mesh(
    new CircleGeometry(1, 96),
    new MeshStandardMaterial({ roughness: 0.9, polygonOffset: true, polygonOffsetFactor: 2, polygonOffsetUnits: 8 }),
  )
  /** A picture that lies on the ground. */
  private readonly laid = new Mesh(
    new PlaneGeometry(1, 1),
    new MeshStandardMaterial({
      roughness: 0.9,
      transparent: true,
      polygonOffset: true,
      polygonOffsetFactor: 2,
      polygonOffsetUnits: 8,
    }),
  )
  private shown: ImageBitmap | null = null
  private target: WebGLRenderTarget | null = null
  private readonly below = new OrthographicCamera()
  private readonly nearness = new ShaderMaterial({
    side: DoubleSide,
    vertexShader:
      'varying float away; void main() { vec4 seen = modelViewMatrix * vec4(position, 1.0); away = -seen.z; gl_Position = projectionMatrix * seen; }',
    fragmentShader:
      'uniform float furthest; varying float away; void main() { gl_FragColor = vec4(0.0, 0.0, 0.0, clamp(1.0 - away / furthest, 0.0, 1.0)); }',
    uniforms: { furthest: { value: 1 } },
  })
  private drawn = ''

  constructor() {
    for (const mesh of [this.plane, this.close, this.disc, this.laid]) mesh.rotation.x = -Math.PI / 2
    this.plane.receiveShadow = true
    // Both shadows lie in one plane: neither hides the other.
    this.cast.depthWrite = false
    this.disc.receiveShadow = true
    this.laid.receiveShadow = true
    this.laid.renderOrder = -3
    this.plane.renderOrder = -2
    this.close.renderOrder = -1
    this.disc.renderOrder = -3
    this.picture.magFilter = LinearFilter
    this.picture.minFilter = LinearFilter
    this.group.add(this.plane, this.close, this.disc, this.laid)
  }

  /** Puts the ground where the model stands as it turns, and draws what stands close to it. */
  prepare(node: ModelNode, renderer: WebGLRenderer, model: Object3D, picture?: ImageBitmap): void {
    const { hull, turn, size, look } = node
    const level = -reach(hull, turn, [0, -1, 0])
    const around = Math.max(reach(hull, turn, [1, 0, 0]), reach(hull, turn, [0, 0, 1]))
    this.plane.position.y = level
    this.plane.scale.setScalar(24 * size)
    this.close.position.y = level + 1e-4 * size
    this.close.scale.setScalar(2.6 * around)
    this.disc.position.y = level - 1e-4 * size
    this.disc.scale.setScalar(1.12 * around * look.groundSize)
    this.layDown(picture, 2.24 * around * look.groundSize, level - 1e-4 * size)
    ;(this.disc.material as MeshStandardMaterial).color.set(look.groundColour)
    this.cast.opacity = 0.7 * look.shadow
    ;(this.close.material as MeshBasicMaterial).opacity = look.shadow
    if (look.ground !== 'none' && (look.pass === 'colour' || look.pass === 'shadow'))
      this.lookFromBelow(renderer, model, level, 1.3 * around, CLOSE * size, node)
  }

  /** Shows what of it belongs to a pass. */
  show({ pass, ground }: ModelLook): void {
    const shadowed = ground !== 'none' && (pass === 'colour' || pass === 'shadow')
    this.plane.visible = shadowed
    this.close.visible = shadowed
    this.disc.visible = ground === 'disc' && pass === 'colour'
    this.laid.visible = ground === 'picture' && pass === 'colour' && this.shown !== null
  }

  /** Lays a picture down whose smaller side has a length. */
  private layDown(picture: ImageBitmap | undefined, side: number, level: number): void {
    const material = this.laid.material as MeshStandardMaterial
    if (picture && picture !== this.shown) {
      material.map?.dispose()
      // Pictures that are decoded already cannot be turned over when they are handed on: a copy is.
      const { width, height } = picture
      const copy = new OffscreenCanvas(width, height)
      copy.getContext('2d')?.drawImage(picture, 0, 0)
      material.map = new CanvasTexture(copy as unknown as HTMLCanvasElement)
      material.map.colorSpace = SRGBColorSpace
      material.map.anisotropy = 4
      material.needsUpdate = true
    }
    this.shown = picture ?? null
    this.laid.position.y = level
    const { width, height } = picture ?? { width: 1, height: 1 }
    const least = Math.min(width, height)
    this.laid.scale.set((side * width) / least, (side * height) / least, 1)
  }

  dispose(): void {
    for (const { geometry, material } of [this.plane, this.close, this.disc, this.laid]) {
      geometry.dispose()
      ;(material as MeshBasicMaterial).dispose()
    }
    this.picture.dispose()
    ;(this.laid.material as MeshStandardMaterial).map?.dispose()
    this.target?.dispose()
  }

  /**
   * The model seen from the ground upwards, the nearer the darker, and blurred. Drawn anew only where it stands otherwise: of a model that turns about an upright
   * axis the shadow turns as it does, so that it is drawn as the model is before it turns.
   */
  private lookFromBelow(
    renderer: WebGLRenderer,
    model: Object3D,
    level: number,
    half: number,
    furthest: number,
    { placement, parts, turn }: ModelNode,
  ): void {
    const upright = turn.lean === 0 && Math.abs(turn.axis[1]) > 1 - 1e-9
    this.close.rotation.z = upright ? Math.atan2(-placement[2], placement[0]) : 0
    const at = upright ? turnedBy(turn, 0) : placement
    const key = JSON.stringify([at.map((x) => x.toFixed(7)), parts, level, half])
    if (key === this.drawn) return
    this.drawn = key
    this.target ??= new WebGLRenderTarget(SIDE, SIDE)
    const { below } = this
    Object.assign(below, { left: -half, right: half, top: half, bottom: -half, near: 0, far: furthest })
    below.position.set(0, level, 0)
    below.up.set(0, 0, 1)
    below.lookAt(0, level + 1, 0)
    below.updateProjectionMatrix()
    this.nearness.uniforms.furthest = { value: furthest }
    const alone = new Scene()
    const home = model.parent
    model.matrix.fromArray([...at])
    model.updateMatrixWorld(true)
    alone.overrideMaterial = this.nearness
    alone.add(model)
    const shadows = renderer.shadowMap.enabled
    renderer.shadowMap.enabled = false
    renderer.setRenderTarget(this.target)
    renderer.setClearColor(0x000000, 0)
    renderer.clear()
    renderer.render(alone, below)
    renderer.setRenderTarget(null)
    renderer.shadowMap.enabled = shadows
    home?.add(model)
    model.matrix.fromArray([...placement])
    model.updateMatrixWorld(true)
    const pixels = new Uint8Array(SIDE * SIDE * 4)
    renderer.readRenderTargetPixels(this.target, 0, 0, SIDE, SIDE, pixels)
    const { data } = this.picture.image as { data: Uint8Array }
    let alpha = Float32Array.from({ length: SIDE * SIDE }, (_, i) => pixels[4 * i + 3])
    for (const radius of BLURS) alpha = blurred(alpha, radius)
    for (let y = 0; y < SIDE; y++)
      for (let x = 0; x < SIDE; x++) {
        // Rows are read from below upwards, and laid on the ground from the front to the back.
        const from = (SIDE - 1 - y) * SIDE + x
        data[4 * (y * SIDE + x) + 3] = 0.85 * alpha[from]
      }
    this.picture.needsUpdate = true
  }
}

/** The mean over a square of a radius, px, first across, then down. */
function blurred(values: Float32Array<ArrayBuffer>, radius: number): Float32Array<ArrayBuffer> {
  const pass = (from: Float32Array, step: number, line: number) => {
    const out = new Float32Array(from.length)
    for (let k = 0; k < SIDE; k++) {
      let sum = 0
      const at = (i: number) => (i < 0 || i >= SIDE ? 0 : from[k * line + i * step])
      for (let i = -radius; i <= radius; i++) sum += at(i)
      for (let i = 0; i < SIDE; i++) {
        out[k * line + i * step] = sum / (2 * radius + 1)
        sum += at(i + radius + 1) - at(i - radius)
      }
    }
    return out
  }
  return pass(pass(values, 1, SIDE), SIDE, 1)
}
