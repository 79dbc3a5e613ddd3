import { type Document, type Material, type Node, Document as Scene, WebIO } from '@gltf-transform/core'
import { createCanvas } from '@napi-rs/canvas'
import {
  BoxGeometry,
  type BufferGeometry,
  CylinderGeometry,
  LatheGeometry,
  SphereGeometry,
  TorusGeometry,
  Vector2,
} from 'three'
import { RoundedBoxGeometry } from 'three/examples/jsm/geometries/RoundedBoxGeometry.js'
import { mergeGeometries, toCreasedNormals } from 'three/examples/jsm/utils/BufferGeometryUtils.js'
import { seeded } from '../src/core/random'

/**
 * Things of Saltmere Light, modelled by hand from turned profiles, boxes and rings, in metres. `npm run demo:make` writes them to GLB files with their
 * parts by name, in groups.
 */
class Workshop {
  readonly document: Document = new Scene()
  private readonly buffer = this.document.createBuffer()
  private readonly materials = new Map<string, Material>()

  constructor(readonly name: string) {}

  paint(
    name: string,
    colour: readonly [number, number, number],
    { rough = 0.6, metal = 0, picture }: { rough?: number; metal?: number; picture?: Uint8Array } = {},
  ): Material {
    const known = this.materials.get(name)
    if (known) return known
    const made = this.document
      .createMaterial(name)
      .setBaseColorFactor([...colour, 1])
      .setRoughnessFactor(rough)
      .setMetallicFactor(metal)
    if (picture)
      made.setBaseColorTexture(
        this.document.createTexture(name).setImage(new Uint8Array(picture)).setMimeType('image/png'),
      )
    this.materials.set(name, made)
    return made
  }

  part(name: string, material: Material, ...geometries: readonly BufferGeometry[]): Node {
    const mesh = this.document.createMesh(name)
    const whole = mergeGeometries(geometries.map((each) => (each.getIndex() ? each.toNonIndexed() : each)))
    const piece = this.document.createPrimitive().setMaterial(material)
    for (const [from, to, type] of [
      ['position', 'POSITION', 'VEC3'],
      ['normal', 'NORMAL', 'VEC3'],
      ['uv', 'TEXCOORD_0', 'VEC2'],
    ] as const) {
      const values = Float32Array.from(whole.getAttribute(from).array)
      piece.setAttribute(to, this.document.createAccessor().setType(type).setArray(values).setBuffer(this.buffer))
    }
    mesh.addPrimitive(piece)
    return this.document.createNode(name).setMesh(mesh)
  }

  group(name: string, ...parts: readonly Node[]): Node {
    const node = this.document.createNode(name)
    for (const part of parts) node.addChild(part)
    return node
  }

  async file(...parts: readonly Node[]): Promise<Uint8Array> {
    const scene = this.document.createScene(this.name)
    for (const part of parts) scene.addChild(part)
    return new WebIO().writeBinary(this.document)
  }
}

type Profile = readonly (readonly [radius: number, height: number])[]
/** A profile from below upwards, so that its faces look outwards. */
const upwards = (profile: Profile): Profile =>
  (profile[0]?.[1] ?? 0) > (profile.at(-1)?.[1] ?? 0) ? [...profile].reverse() : profile

/** A profile of radii and heights turned about y, with its sharp turns kept sharp. */
const turned = (profile: Profile, sides = 72): BufferGeometry =>
  toCreasedNormals(
    new LatheGeometry(
      upwards(profile).map(([r, h]) => new Vector2(r, h)),
      sides,
    ),
    0.6,
  )
const rod = (
  radius: number,
  from: readonly [number, number, number],
  to: readonly [number, number, number],
  sides = 20,
) => {
  const way = to.map((x, i) => x - (from[i] as number)) as [number, number, number]
  const length = Math.hypot(...way)
  const geometry = new CylinderGeometry(radius, radius, length, sides)
  const tilt = Math.acos(way[1] / length)
  geometry.rotateZ(-tilt)
  geometry.rotateY(-Math.atan2(way[2], way[0]))
  return geometry.translate(...(from.map((x, i) => x + (way[i] as number) / 2) as [number, number, number]))
}
const box = (width: number, height: number, depth: number, x: number, y: number, z: number, round = 0.02) =>
  new RoundedBoxGeometry(width, height, depth, 3, Math.min(round, width / 2.1, height / 2.1, depth / 2.1)).translate(
    x,
    y,
    z,
  )
const ring = (radius: number, thick: number, y: number) =>
  new TorusGeometry(radius, thick, 14, 72).rotateX(Math.PI / 2).translate(0, y, 0)

/** A picture with wear in it: bands, and a mark upon them where there is one. */
function painted(bands: readonly (readonly [colour: string, share: number])[], mark?: string): Uint8Array {
  const canvas = createCanvas(512, 256)
  const context = canvas.getContext('2d')
  let y = 0
  for (const [colour, share] of bands) {
    context.fillStyle = colour
    context.fillRect(0, y, 512, 256 * share + 1)
    y += 256 * share
  }
  for (let i = 0; i < 900; i++) {
    const x = 512 * seeded(i, 1)
    const up = 256 * seeded(i, 2)
    const long = 2 + 14 * seeded(i, 3)
    context.fillStyle = seeded(i, 4) > 0.5 ? 'rgba(20,30,34,0.05)' : 'rgba(255,250,235,0.06)'
    context.fillRect(x, up, 1.5, long)
  }
  if (mark) {
    context.fillStyle = mark
    context.beginPath()
    for (const [x, up] of [
      [256, 30],
      [400, 128],
      [256, 226],
      [112, 128],
    ] as const)
      context.lineTo(x, up)
    context.fill()
  }
  return new Uint8Array(canvas.toBuffer('image/png'))
}

/** A mooring buoy whose origin lies beside it, where the chain is made fast. */
export async function mooringBuoyModel(): Promise<Uint8Array> {
  const shop = new Workshop('Mooring buoy')
  const bands = painted([
    ['#c8472f', 0.36],
    ['#f1e6d2', 0.24],
    ['#c8472f', 0.4],
  ])
  const hull = shop.paint('Hull', [1, 1, 1], { rough: 0.55, picture: bands })
  const steel = shop.paint('Steel', [0.32, 0.36, 0.38], { rough: 0.45, metal: 0.8 })
  const glass = shop.paint('Lamp glass', [0.95, 0.62, 0.16], { rough: 0.15 })
  const sign = shop.paint('Sign', [1, 1, 1], {
    rough: 0.5,
    picture: painted([['#f6b84b', 1]], '#0a2231'),
  })
  const float = shop.part(
    'Float',
    hull,
    turned([
      [0.02, -0.34],
      [0.34, -0.34],
      [0.52, -0.24],
      [0.6, -0.06],
      [0.6, 0.1],
      [0.52, 0.26],
      [0.3, 0.34],
      [0.02, 0.36],
    ]),
  )
  const mast = shop.part(
    'Mast',
    steel,
    ...[0, 1, 2].map((i) => {
      const a = (2 * Math.PI * i) / 3
      return rod(0.022, [0.28 * Math.cos(a), 0.32, 0.28 * Math.sin(a)], [0.09 * Math.cos(a), 1.2, 0.09 * Math.sin(a)])
    }),
    ring(0.19, 0.014, 0.75),
    ring(0.1, 0.018, 1.2),
  )
  const lamp = shop.part('Lamp', glass, new SphereGeometry(0.085, 32, 20).translate(0, 1.3, 0))
  const cap = shop.part(
    'Cap',
    steel,
    turned([
      [0.001, 1.42],
      [0.06, 1.4],
      [0.11, 1.37],
      [0.11, 1.35],
      [0.001, 1.35],
    ]),
    turned([
      [0.001, 1.23],
      [0.1, 1.23],
      [0.1, 1.21],
      [0.001, 1.21],
    ]),
  )
  const plate = shop.part('Sign', sign, new BoxGeometry(0.36, 0.18, 0.012).translate(0, 0.86, 0.185))
  const eye = shop.part('Eye', steel, new TorusGeometry(0.1, 0.026, 14, 40).translate(0.58, 0.22, 0))
  const all = shop.group('Mooring buoy', float, shop.group('Top mark', mast, lamp, cap, plate), eye)
  all.setTranslation([0.75, 0.34, -0.4]).setExtras({ position: [412.0625, 7.1, -93.5], heading: 117.25 })
  return shop.file(all)
}

/** A capstan with six bars. */
export async function capstanModel(): Promise<Uint8Array> {
  const shop = new Workshop('Capstan')
  const iron = shop.paint('Iron', [0.07, 0.24, 0.28], { rough: 0.5, metal: 0.35 })
  const wood = shop.paint('Ash', [0.62, 0.44, 0.24], { rough: 0.7 })
  const brass = shop.paint('Brass', [0.86, 0.62, 0.25], { rough: 0.3, metal: 0.9 })
  const drum = shop.part(
    'Drum',
    iron,
    turned([
      [0.001, 0.1],
      [0.44, 0.1],
      [0.46, 0.16],
      [0.34, 0.28],
      [0.27, 0.5],
      [0.29, 0.72],
      [0.36, 0.8],
      [0.5, 0.82],
      [0.5, 0.98],
      [0.3, 1.03],
      [0.001, 1.04],
    ]),
  )
  const bed = shop.part(
    'Bed',
    iron,
    turned([
      [0.001, 0],
      [0.66, 0],
      [0.66, 0.06],
      [0.6, 0.1],
      [0.001, 0.1],
    ]),
  )
  const around = (i: number, geometry: BufferGeometry) => geometry.rotateY((-2 * Math.PI * i) / 6)
  const six = [0, 1, 2, 3, 4, 5]
  const whelps = shop.part('Whelps', brass, ...six.map((i) => around(i, box(0.09, 0.5, 0.07, 0.31, 0.5, 0, 0.03))))
  const bars = six.map((i) =>
    shop.part(
      `Bar ${i + 1}`,
      wood,
      around(i, rod(0.042, [0.32, 0.9, 0], [1.5, 0.9, 0])),
      around(i, rod(0.052, [1.3, 0.9, 0], [1.52, 0.9, 0])),
    ),
  )
  const cap = shop.part(
    'Cap',
    brass,
    turned([
      [0.001, 1.14],
      [0.1, 1.12],
      [0.2, 1.07],
      [0.22, 1.03],
      [0.001, 1.03],
    ]),
  )
  return shop.file(shop.group('Capstan', bed, shop.group('Head', drum, whelps, cap), shop.group('Bars', ...bars)))
}

/** A signal lamp: a housing that stands, a lens of eight panels that turns in it, and a shutter that opens. */
export async function signalLampModel(): Promise<Uint8Array> {
  const shop = new Workshop('Signal lamp')
  const enamel = shop.paint('Enamel', [1, 1, 1], { rough: 0.45, picture: painted([['#123a4c', 1]]) })
  const brass = shop.paint('Brass', [0.86, 0.62, 0.25], { rough: 0.28, metal: 0.9 })
  const glass = shop.paint('Glass', [0.5, 0.8, 0.74], { rough: 0.08 })
  const flame = shop.paint('Mantle', [1, 0.83, 0.5], { rough: 0.9 })
  const housing = shop.group(
    'Housing',
    shop.part(
      'Base',
      enamel,
      turned([
        [0.001, 0],
        [0.5, 0],
        [0.5, 0.08],
        [0.42, 0.16],
        [0.4, 0.26],
        [0.44, 0.3],
        [0.001, 0.3],
      ]),
    ),
    shop.part(
      'Roof',
      enamel,
      turned([
        [0.001, 1.62],
        [0.05, 1.6],
        [0.07, 1.5],
        [0.2, 1.42],
        [0.46, 1.28],
        [0.5, 1.2],
        [0.001, 1.2],
      ]),
    ),
    shop.part(
      'Posts',
      brass,
      ...[45, 135, 225, 315].map((degrees) => {
        const a = (degrees * Math.PI) / 180
        return rod(
          0.022,
          [0.43 * Math.cos(a), 0.29, 0.43 * Math.sin(a)],
          [0.43 * Math.cos(a), 1.21, 0.43 * Math.sin(a)],
        )
      }),
    ),
    shop.part('Handle', brass, new TorusGeometry(0.1, 0.018, 12, 40).translate(0, 1.7, 0)),
  )
  const eight = Array.from({ length: 8 }, (_, i) => i)
  const panel = (i: number) => {
    const a = (2 * Math.PI * (i + 0.5)) / 8
    const lens = new SphereGeometry(0.12, 24, 16).scale(1, 1.5, 0.35).translate(0, 0.75, 0.3)
    return lens.rotateY(a)
  }
  const lens = shop.group(
    'Lens',
    shop.part('Panels', glass, ...eight.map(panel)),
    shop.part(
      'Frame',
      brass,
      ...eight.map((i) => {
        const a = (2 * Math.PI * i) / 8
        return rod(
          0.014,
          [0.31 * Math.sin(a), 0.46, 0.31 * Math.cos(a)],
          [0.31 * Math.sin(a), 1.04, 0.31 * Math.cos(a)],
          12,
        )
      }),
      ring(0.31, 0.018, 0.46),
      ring(0.31, 0.018, 1.04),
    ),
  )
  const burner = shop.part(
    'Mantle',
    flame,
    turned([
      [0.001, 0.9],
      [0.05, 0.86],
      [0.07, 0.7],
      [0.05, 0.56],
      [0.05, 0.3],
      [0.001, 0.3],
    ]),
  )
  const shutter = shop.part(
    'Shutter',
    enamel,
    ...[-1, 0, 1].map((i) => box(0.19, 0.62, 0.014, 0.2 * i, 0.75, 0.47, 0.006)),
    ...[0.46, 1.04].map((y) => rod(0.012, [-0.3, y, 0.485], [0.3, y, 0.485])),
  )
  return shop.file(shop.group('Signal lamp', housing, lens, burner, shutter))
}
