import { toHex } from '@/core/colour'
import { clipFrameOf, type DisplayNode, type Fill, type Gradient, type Loop, type Stroke } from '@/core/loop'
import { filledIn, type Key, keysOf, partsAlong, type VectorNode, vectorNodes } from '@/core/output'
import type { Path } from '@/core/path'

/** So far may values between keys be off: px, degrees, per cent. */
const NEAR = 0.02
/** Blend modes by their numbers in the format. */
const BLENDS: readonly string[] = [
  ...['normal', 'multiply', 'screen', 'overlay', 'darken', 'lighten', 'color-dodge', 'color-burn', 'hard-light'],
  ...['soft-light', 'difference', 'exclusion', 'hue', 'saturation', 'color', 'luminosity'],
]
const CAPS = { butt: 1, round: 2, square: 3 } as const
const JOINS = { miter: 1, round: 2, bevel: 3 } as const

type Json = Record<string, unknown>
const short = (x: number) => Number(x.toFixed(3))

/** Red, green, blue and opacity, 0 … 1. */
const colourOf = (colour: string): [number, number, number, number] => {
  const hex = toHex(colour)
  const part = (at: number) => Number.parseInt(hex.slice(at, at + 2), 16) / 255
  return [part(1), part(3), part(5), hex.length > 7 ? part(7) : 1]
}

/** A value that changes along straight lines between keys, or stays. */
function animated(series: readonly (readonly number[])[], tolerance = NEAR): Json {
  const keys = keysOf(series, tolerance)
  const value = (values: readonly number[]) => values.map((x) => Number(x.toFixed(4)))
  if (keys.length < 2) {
    const only = value(series[0] as readonly number[])
    return { a: 0, k: only.length === 1 ? only[0] : only }
  }
  const linear = { i: { x: [1], y: [1] }, o: { x: [0], y: [0] } }
  return { a: 1, k: keys.map((key, i) => ({ t: momentOf(keys, i), s: value(key.values), ...linear })) }
}
/** Two keys at one moment stand so far apart, in frames: the format has only one at a time. */
const APART = 0.001
const momentOf = (keys: readonly Key[], i: number) => {
  const at = keys[i]?.at as number
  return keys[i + 1]?.at === at ? at - APART : at
}
const plain = (k: unknown): Json => ({ a: 0, k })

/** One line of a path: points, and handles relative to them. */
interface Bezier {
  readonly c: boolean
  readonly v: number[][]
  readonly i: number[][]
  readonly o: number[][]
}

function beziersOf(path: Path): Bezier[] {
  const all: { c: boolean; v: number[][]; i: number[][]; o: number[][] }[] = []
  let own: (typeof all)[number] | undefined
  const add = (x: number, y: number, into: number[] = [0, 0]) => {
    own?.v.push([x, y])
    own?.i.push(into)
    own?.o.push([0, 0])
  }
  for (const segment of path) {
    if (segment[0] === 'M') {
      own = { c: false, v: [], i: [], o: [] }
      all.push(own)
      add(segment[1], segment[2])
    } else if (segment[0] === 'L') add(segment[1], segment[2])
    else if (segment[0] === 'C' && own) {
      const [, x1, y1, x2, y2, x, y] = segment
      const [fromX = 0, fromY = 0] = own.v.at(-1) ?? []
      own.o[own.o.length - 1] = [x1 - fromX, y1 - fromY]
      add(x, y, [x2 - x, y2 - y])
    } else if (segment[0] === 'Z' && own) {
      own.c = true
      // A curve that comes back to its first point ends in that point.
      const [first, last] = [own.v[0] as number[], own.v.at(-1) as number[]]
      if (own.v.length > 1 && Math.hypot((first[0] ?? 0) - (last[0] ?? 0), (first[1] ?? 0) - (last[1] ?? 0)) < 1e-6) {
        own.i[0] = own.i.at(-1) as number[]
        for (const list of [own.v, own.i, own.o]) list.pop()
      }
    }
  }
  return all.map(({ c, ...lists }) => {
    const [v, i, o] = [lists.v, lists.i, lists.o].map((list) => list.map((pair) => pair.map(short)))
    return { c, v: v ?? [], i: i ?? [], o: o ?? [] }
  })
}

/** Lines with as many points as the longest of them, all closed or all open, as the format asks for: the last point stands for more. */
function alike(lines: readonly Bezier[]): readonly Bezier[] {
  const closed = lines.every(({ c }) => c)
  const opened = closed ? lines : lines.map(open)
  const most = Math.max(...opened.map(({ v }) => v.length))
  return opened.map(({ c, v, i, o }) => {
    const more = Array.from({ length: most - v.length }, () => v.at(-1) as number[])
    const still = more.map(() => [0, 0])
    return { c, v: [...v, ...more], i: [...i, ...still], o: [...o, ...still] }
  })
}

/** A closed line as an open one that comes back to its first point. */
const open = ({ c, v, i, o }: Bezier): Bezier =>
  c
    ? {
        c: false,
        v: [...v, v[0] as number[]],
        i: [[0, 0], ...i.slice(1), i[0] as number[]],
        o: [...o, [0, 0]],
      }
    : { c, v, i, o }

/** The lines of a path along the loop, each as a shape of its own. */
function shapesOf(paths: readonly Path[]): Json[] {
  const lines = paths.map(beziersOf)
  const most = Math.max(0, ...lines.map(({ length }) => length))
  const nothing: Bezier = { c: false, v: [[0, 0]], i: [[0, 0]], o: [[0, 0]] }
  return Array.from({ length: most }, (_, at) => {
    const own = alike(lines.map((each) => each[at] ?? nothing))
    const [first] = own as [Bezier]
    const flat = own.map(({ v, i, o }) => [v, i, o].flat(2))
    const keys = keysOf(flat, NEAR)
    if (keys.length < 2) return { ty: 'sh', ks: plain(first) }
    const linear = { i: { x: 1, y: 1 }, o: { x: 0, y: 0 } }
    const points = first.v.length
    const pairs = (values: readonly number[], from: number) =>
      Array.from({ length: points }, (_, p) => values.slice(2 * (from * points + p), 2 * (from * points + p) + 2))
    const line = (values: readonly number[]) => ({
      c: first.c,
      v: pairs(values, 0),
      i: pairs(values, 1),
      o: pairs(values, 2),
    })
    return {
      ty: 'sh',
      ks: { a: 1, k: keys.map(({ values }, k) => ({ t: momentOf(keys, k), s: [line(values)], ...linear })) },
    }
  })
}

/** Colour and opacity of a fill, a stroke or the stops of a gradient. */
function paint(colours: readonly string[]): Json {
  const parts = colours.map(colourOf)
  return {
    c: animated(
      parts.map(([r, g, b]) => [r, g, b, 1]),
      0.002,
    ),
    o: animated(parts.map(([, , , a]) => [100 * a])),
  }
}

function gradient(series: readonly Gradient[]): Json {
  const [{ type, stops }] = series as [Gradient]
  const colours = series.map((each) => {
    const parts = each.stops.map(({ at, colour }) => ({ at, colour: colourOf(colour) }))
    const clear = series.some((one) => one.stops.some(({ colour }) => colourOf(colour)[3] < 1))
    return [
      ...parts.flatMap(({ at, colour: [r, g, b] }) => [at, r, g, b]),
      ...(clear ? parts.flatMap(({ at, colour }) => [at, colour[3]]) : []),
    ]
  })
  return {
    ...{ ty: 'gf', r: 1, o: plain(100), t: type === 'linear' ? 1 : 2 },
    s: animated(series.map(({ from }) => [from.x, from.y])),
    e: animated(series.map(({ to }) => [to.x, to.y])),
    g: { p: stops.length, k: animated(colours, 0.002) },
  }
}

function fill(series: readonly (Fill | null)[]): Json[] {
  const fills = filledIn(series)
  if (!fills) return []
  const gradients = fills.map((each) => each.gradient)
  const painted = gradients.every((each) => each !== undefined)
    ? gradient(gradients as Gradient[])
    : { ty: 'fl', r: 1, ...paint(fills.map(({ colour }) => colour)) }
  return [group([...shapesOf(fills.map(({ path }) => path)), painted])]
}

function stroke(series: readonly (Stroke | null)[]): Json[] {
  const strokes = filledIn(series)
  if (!strokes) return []
  const [{ cap, join }] = strokes as [Stroke]
  const most = Math.max(...strokes.map(({ dash }) => dash.length))
  // An odd pattern is drawn twice, as in SVG.
  const dashes = strokes.map(({ dash }) => (dash.length % 2 === 1 ? [...dash, ...dash] : dash))
  const pattern = (i: number) => dashes.map((dash) => [dash[i] ?? 0])
  const dashed =
    most === 0
      ? {}
      : {
          d: [
            ...Array.from({ length: most % 2 === 1 ? 2 * most : most }, (_, i) => ({
              ...{ n: i % 2 === 0 ? 'd' : 'g', nm: `${i % 2 === 0 ? 'dash' : 'gap'} ${i >> 1}` },
              v: animated(pattern(i)),
            })),
            { n: 'o', nm: 'offset', v: animated(strokes.map(({ dashOffset }) => [dashOffset])) },
          ],
        }
  const painted = {
    ...{ ty: 'st', lc: CAPS[cap], lj: JOINS[join], ml: 10, ...dashed },
    ...paint(strokes.map(({ colour }) => colour)),
    w: animated(strokes.map(({ width }) => [width])),
  }
  return [group([...shapesOf(strokes.map(({ path }) => path)), painted])]
}

const group = (items: readonly Json[]): Json => ({
  ty: 'gr',
  it: [...items, { ty: 'tr', p: plain([0, 0]), a: plain([0, 0]), s: plain([100, 100]), r: plain(0), o: plain(100) }],
})

/** Puts together layers, and the compositions and pictures that they refer to. */
class Composer {
  readonly assets: Json[] = []
  private ids = 0
  private readonly files = new Map<string, string>()

  constructor(
    private readonly loop: Loop,
    /** Compositions within reach so far on all sides of their middle, px. */
    private readonly reach: number,
  ) {}

  /** Nodes, from back to front, as the format has them: the frontmost first. */
  layers(nodes: readonly VectorNode[]): Json[] {
    const own = nodes.flatMap((node): Json[] => {
      const layer = this.layer(node)
      return layer ? [layer] : []
    })
    return own.reverse().map((layer, i) => ({ ...layer, ind: i + 1 }))
  }

  private common(node: VectorNode, anchor: readonly [number, number] = [0, 0]): Json {
    const parts = partsAlong(node.at.map(({ transform }) => transform))
    const [{ blend }] = node.at as [DisplayNode]
    return {
      ...{ ddd: 0, ip: 0, op: this.loop.length, st: 0, sr: 1, bm: Math.max(0, BLENDS.indexOf(blend)) },
      ks: {
        o: animated(node.at.map(({ opacity }) => [100 * opacity])),
        p: animated(parts.map(({ x, y }) => [x, y])),
        r: animated(parts.map(({ turn }) => [turn])),
        s: animated(parts.map(({ scaleX, scaleY }) => [100 * scaleX, 100 * scaleY])),
        ...(parts.some(({ shear }) => Math.abs(shear) > 1e-6)
          ? { sk: animated(parts.map(({ shear }) => [-shear])), sa: plain(0) }
          : {}),
        a: plain(anchor),
      },
    }
  }

  private layer(node: VectorNode): Json | null {
    const [first] = node.at as readonly [DisplayNode]
    if (node.at.every(({ opacity }) => opacity <= 0)) return null
    const nm = node.layerId
    if (first.type === 'shape') {
      const shapes = node.at as readonly Extract<DisplayNode, { type: 'shape' }>[]
      // What is drawn last comes first.
      const items = [...stroke(shapes.map((each) => each.stroke)), ...fill(shapes.map((each) => each.fill))]
      return items.length === 0 ? null : { ty: 4, nm, ...this.common(node), shapes: items }
    }
    if (first.type === 'picture') return this.picture(node, first, nm)
    const { mask = 'none', clip } = first
    const children = [...node.children]
    const cut = mask === 'none' ? undefined : children.pop()
    let layers = this.layers(children)
    if (cut) {
      // Whatever the matte cuts stands in one composition, right behind it.
      const matte = this.layer(cut)
      const inner = this.composition(layers)
      layers = [
        ...(matte ? [{ ...matte, td: 1, ind: 1 }] : []),
        { ...this.still(inner), ind: 2, ...(matte ? { tt: mask === 'inverse' ? 2 : 1, tp: 1 } : {}) },
      ]
      if (!matte && mask === 'shape') layers = []
    }
    const { reach } = this
    const id = this.composition(layers)
    const masksProperties = clip
      ? [
          {
            mode: 'a',
            inv: false,
            x: plain(0),
            o: plain(100),
            pt: plain(boxPath(clip.x + reach, clip.y + reach, clip.width, clip.height)),
          },
        ]
      : undefined
    return {
      ...{ ty: 0, nm, refId: id, w: 2 * reach, h: 2 * reach },
      ...this.common(node, [reach, reach]),
      ...(masksProperties ? { hasMask: true, masksProperties } : {}),
    }
  }

  /** A composition as a layer that is moved no further than to where it belongs. */
  private still(refId: string): Json {
    const { reach, loop } = this
    return {
      ...{ ty: 0, refId, w: 2 * reach, h: 2 * reach, ddd: 0, ip: 0, op: loop.length, st: 0, sr: 1, bm: 0 },
      ks: { o: plain(100), p: plain([0, 0]), r: plain(0), s: plain([100, 100]), a: plain([reach, reach]) },
    }
  }

  /** Compositions are cut at their edges: their middle, not their corner, is where their coordinates begin. */
  private composition(layers: readonly Json[]): string {
    const id = `c${this.ids++}`
    const { reach } = this
    const carrier = {
      ...{ ty: 3, nm: 'middle', ddd: 0, ip: 0, op: this.loop.length, st: 0, sr: 1, ind: layers.length + 1 },
      ks: { o: plain(100), p: plain([reach, reach]), r: plain(0), s: plain([100, 100]), a: plain([0, 0]) },
    }
    const inside = layers.map((layer) => ({ ...layer, parent: layers.length + 1 }))
    this.assets.push({ id, layers: [...inside, carrier] })
    return id
  }

  private picture(node: VectorNode, first: Extract<DisplayNode, { type: 'picture' }>, nm: string): Json | null {
    const refId = this.file(first.id)
    if (!refId) return null
    const asset = this.assets.find(({ id }) => id === refId) as { w: number; h: number }
    const { x, y, width, height } = first.box
    // The box is the picture scaled: a composition of its own keeps that apart from how the layer moves.
    const layer = {
      ...{ ty: 2, refId, ddd: 0, ip: 0, op: this.loop.length, st: 0, sr: 1, bm: 0, ind: 1 },
      ks: {
        ...{ o: plain(100), p: plain([x, y]), r: plain(0), a: plain([0, 0]) },
        s: plain([(100 * width) / asset.w, (100 * height) / asset.h]),
      },
    }
    const { reach } = this
    return {
      ...{ ty: 0, nm, refId: this.composition([layer]), w: 2 * reach, h: 2 * reach },
      ...this.common(node, [reach, reach]),
    }
  }

  private file(id: string): string | null {
    const known = this.files.get(id)
    if (known) return known
    const still = this.loop.pictures.find((each) => each.id === id)
    const place = clipFrameOf(id)
    const clip = this.loop.clips.find((each) => each.id === place?.clip)
    const data = still?.data ?? clip?.frames[place?.frame ?? 0]
    const found = still ?? clip
    if (!found || !data) return null
    const name = `p${this.ids++}`
    this.files.set(id, name)
    this.assets.push({ id: name, w: found.width, h: found.height, u: '', p: `data:${found.type};base64,${data}`, e: 1 })
    return name
  }
}

const boxPath = (x: number, y: number, w: number, h: number): Bezier => ({
  c: true,
  v: [
    [x, y],
    [x + w, y],
    [x + w, y + h],
    [x, y + h],
  ],
  i: Array.from({ length: 4 }, () => [0, 0]),
  o: Array.from({ length: 4 }, () => [0, 0]),
})

/**
 * A loop as Lottie JSON (Lottie specification 1.0): one file, whose frames are those of the loop. What it cannot show is
 * named by `inexpressible`.
 * @param scale of its size against the loop's
 */
export function lottieOf(loop: Loop, scale = 1): Json {
  const { width, height, background, length, rate, name } = loop
  const composer = new Composer(loop, 3 * Math.max(width, height))
  const layers = composer.layers(vectorNodes(loop))
  const [r, g, b, a] = background ? colourOf(background) : [0, 0, 0, 0]
  const ground: Json = {
    ...{ ty: 4, nm: 'background', ddd: 0, ip: 0, op: length, st: 0, sr: 1, bm: 0, ind: layers.length + 1 },
    ks: { o: plain(100), p: plain([0, 0]), r: plain(0), s: plain([100, 100]), a: plain([0, 0]) },
    shapes: [
      group([
        { ty: 'sh', ks: plain(boxPath(0, 0, width, height)) },
        { ty: 'fl', r: 1, c: plain([r, g, b, 1]), o: plain(100 * a) },
      ]),
    ],
  }
  const all = background ? [...layers, ground] : layers
  const [w, h] = [Math.round(width * scale), Math.round(height * scale)]
  const sized =
    scale === 1
      ? all
      : [
          ...all.map((layer) => ({ ...layer, parent: all.length + 1 })),
          {
            ...{ ty: 3, nm: 'size', ddd: 0, ip: 0, op: length, st: 0, sr: 1, ind: all.length + 1 },
            ks: {
              ...{ o: plain(100), p: plain([0, 0]), r: plain(0), a: plain([0, 0]) },
              s: plain([(100 * w) / width, (100 * h) / height]),
            },
          },
        ]
  return {
    ...{ v: '5.7.0', fr: rate.num / rate.den, ip: 0, op: length, w, h, nm: name, ddd: 0 },
    ...{ assets: composer.assets, layers: sized },
  }
}
