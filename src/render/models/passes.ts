import {
  type BufferGeometry,
  Color,
  DoubleSide,
  EdgesGeometry,
  type Material,
  type Mesh,
  MeshBasicMaterial,
  MeshNormalMaterial,
  MeshStandardMaterial,
  ShaderMaterial,
  WireframeGeometry,
} from 'three'
import { LineMaterial } from 'three/examples/jsm/lines/LineMaterial.js'
import { LineSegments2 } from 'three/examples/jsm/lines/LineSegments2.js'
import { LineSegmentsGeometry } from 'three/examples/jsm/lines/LineSegmentsGeometry.js'
import type { ModelLook } from '@/core/display'
import type { ModelPiece } from './model'

/** Faces that meet at more than this are a crease, degrees. */
const CREASE = 25

/** How near each spot is: white at the camera's near side of the model, black behind it. */
const depthMaterial = () =>
  new ShaderMaterial({
    side: DoubleSide,
    uniforms: { nearest: { value: 0 }, furthest: { value: 1 }, measured: { value: false } },
    vertexShader: `varying float away; void main() { vec4 seen = modelViewMatrix * vec4(position, 1.0); away = -seen.z; gl_Position = projectionMatrix * seen; }`,
    fragmentShader: `uniform float nearest; uniform float furthest; uniform bool measured; varying float away; void main() { float d = clamp((furthest - away) / (furthest - nearest), 0.0, 1.0); gl_FragColor = vec4(vec3(measured ? away : d), 1.0); }`,
  })

/** A colour that is told from those of its neighbours in number (golden angle in hue). */
const partColour = (n: number): Color => new Color().setHSL((n * 0.381966) % 1, 0.62, 0.35 + 0.12 * (n % 3))

/** Materials of each pass for the pieces of a model. */
export class Passes {
  /** Geometries that know how much of the sky each vertex sees, by piece; null until that has been worked out. */
  occlusion: ReadonlyMap<Mesh, BufferGeometry> | null = null
  private readonly alpha = new MeshBasicMaterial({ color: 0xffffff, side: DoubleSide, toneMapped: false })
  private readonly hidden = new MeshBasicMaterial({
    colorWrite: false,
    side: DoubleSide,
    polygonOffset: true,
    polygonOffsetFactor: 1.5,
    polygonOffsetUnits: 2,
  })
  private readonly unseen = new MeshBasicMaterial({ colorWrite: false, depthWrite: false, side: DoubleSide })
  private readonly normals = new MeshNormalMaterial({ side: DoubleSide })
  private readonly sky = new MeshBasicMaterial({ vertexColors: true, side: DoubleSide, toneMapped: false })
  private readonly depth = depthMaterial()
  private readonly one = new MeshStandardMaterial({ side: DoubleSide })
  private readonly colours = new Map<number, MeshBasicMaterial>()
  private readonly line = new LineMaterial({ worldUnits: false })
  private readonly lines = new Map<Mesh, LineSegments2>()
  private linesAre: ModelLook['edges'] | null = null
  private readonly geometries: ReadonlyMap<Mesh, BufferGeometry>

  constructor(private readonly pieces: readonly ModelPiece[]) {
    this.geometries = new Map(pieces.map(({ mesh }) => [mesh, mesh.geometry]))
  }

  /** Between which distances from the camera depth is told; or that the distance itself is. */
  setDepth(nearest: number, furthest: number, measured: boolean): void {
    const uniforms = { nearest: { value: nearest }, furthest: { value: furthest }, measured: { value: measured } }
    Object.assign(this.depth.uniforms, uniforms)
  }

  /** Paints all pieces for a pass. @param scale px that a px of the node has */
  take(look: ModelLook, scale: number, width: number, height: number): void {
    for (const piece of this.pieces) {
      piece.mesh.material = this.materialOf(piece, look)
      const baked = look.pass === 'occlusion' ? this.occlusion?.get(piece.mesh) : undefined
      if (baked) piece.mesh.geometry = baked
    }
    if (look.pass === 'wireframe') this.drawLines(look, scale, width, height)
  }

  /** Leaves all as it was. */
  giveBack(): void {
    for (const { mesh, material } of this.pieces) {
      mesh.material = material
      const own = this.geometries.get(mesh)
      if (own) mesh.geometry = own
    }
    for (const each of this.lines.values()) each.visible = false
  }

  dispose(): void {
    for (const each of this.lines.values()) each.geometry.dispose()
    for (const baked of this.occlusion?.values() ?? []) baked.dispose()
    for (const each of [this.alpha, this.hidden, this.unseen, this.normals, this.sky, this.depth, this.one, this.line])
      each.dispose()
    for (const each of this.colours.values()) each.dispose()
  }

  private materialOf({ material, node }: ModelPiece, look: ModelLook): Material | Material[] {
    switch (look.pass) {
      case 'colour':
        return this.painted(material, look)
      case 'alpha':
        return this.alpha
      case 'wireframe':
        return this.hidden
      case 'occlusion':
        return this.sky
      case 'depth':
        return this.depth
      case 'normals':
        return this.normals
      case 'shadow':
        return this.unseen
      case 'part colours': {
        const own =
          this.colours.get(node) ??
          new MeshBasicMaterial({ color: partColour(node), side: DoubleSide, toneMapped: false })
        this.colours.set(node, own)
        return own
      }
    }
  }

  private painted(own: Material | Material[], { material, materialColour }: ModelLook): Material | Material[] {
    if (material === 'of the file') return own
    const { one } = this
    one.color.set(material === 'clay' ? '#b8aea2' : materialColour)
    one.roughness = material === 'glossy' ? 0.12 : material === 'clay' ? 0.95 : 0.6
    one.metalness = 0
    return one
  }

  private drawLines({ edges, lineWidth, lineColour }: ModelLook, scale: number, width: number, height: number): void {
    if (this.linesAre !== edges) {
      for (const [mesh, each] of this.lines) {
        mesh.remove(each)
        each.geometry.dispose()
      }
      this.lines.clear()
      for (const { mesh } of this.pieces) {
        const found = edges === 'all' ? new WireframeGeometry(mesh.geometry) : new EdgesGeometry(mesh.geometry, CREASE)
        const geometry = new LineSegmentsGeometry().setPositions(found.getAttribute('position').array as Float32Array)
        found.dispose()
        const drawn = new LineSegments2(geometry, this.line)
        // Drawn after all that hides them.
        drawn.renderOrder = 2
        this.lines.set(mesh, drawn)
        mesh.add(drawn)
      }
      this.linesAre = edges
    }
    for (const each of this.lines.values()) each.visible = true
    this.line.color.set(lineColour)
    this.line.linewidth = lineWidth * scale
    this.line.resolution.set(width, height)
    this.line.toneMapped = false
  }
}
