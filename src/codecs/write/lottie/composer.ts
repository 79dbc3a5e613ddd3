import { type DisplayNode, type GroupNode, nodeType, type PictureNode, type ShapeNode } from '@/core/display'
import type { Loop } from '@/core/document'
import { LOTTIE_BLENDS, partsAlong, type VectorNode } from '@/core/output'
import type { EmbeddedPictures } from '../embedded'
import { boxPath } from './lines'
import { fillItems, strokeItems } from './paint'
import { animated, type LottieJson, plain } from './values'

/** Modes of track mattes (Lottie specification 1.0), by how a group is masked. */
const MATTES = { shape: 1, inverse: 2, brightness: 3 } as const

/** Puts together layers, and the compositions and pictures that they refer to. */
export class Composer {
  readonly assets: LottieJson[] = []
  private ids = 0
  private readonly files = new Map<string, string>()

  constructor(
    private readonly loop: Loop,
    private readonly pictures: EmbeddedPictures,
    /** Half the side of a composition about its centre, px. */
    private readonly reach: number,
  ) {}

  /** Nodes, from back to front, as the format has them: the frontmost first. */
  layers(nodes: readonly VectorNode[]): LottieJson[] {
    const own = nodes.flatMap((node): LottieJson[] => {
      const layer = this.layer(node)
      return layer ? [layer] : []
    })
    return own.reverse().map((layer, i) => ({ ...layer, ind: i + 1 }))
  }

  private common(node: VectorNode, anchor: readonly [number, number] = [0, 0]): LottieJson {
    const parts = partsAlong(node.at.map(({ transform }) => transform))
    const [{ blend }] = node.at as [DisplayNode]
    return {
      ddd: 0,
      ip: 0,
      op: this.loop.length,
      st: 0,
      sr: 1,
      bm: Math.max(0, LOTTIE_BLENDS.indexOf(blend)),
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

  private layer(node: VectorNode): LottieJson | null {
    if (node.at.every(({ opacity }) => opacity <= 0)) return null
    return this.contents[node.type]?.(node) ?? null
  }

  /** Translation of each type of display node; other types are left out, as `inexpressible` reports. */
  private readonly contents: Readonly<Record<string, (node: VectorNode) => LottieJson | null>> = {
    shape: (node) => {
      const shapes = node.at as readonly ShapeNode[]
      // The last drawn item comes first.
      const items = [...strokeItems(shapes.map((each) => each.stroke)), ...fillItems(shapes.map((each) => each.fill))]
      return items.length === 0 ? null : { ty: 4, nm: node.layerId, ...this.common(node), shapes: items }
    },
    picture: (node) => this.picture(node, node.at[0] as PictureNode),
    group: (node) => this.group(node, node.at[0] as GroupNode),
  }

  private group(node: VectorNode, { mask = 'none', clip }: GroupNode): LottieJson {
    const children = [...node.children]
    const cut = mask === 'none' ? undefined : children.pop()
    let layers = this.layers(children)
    // A mask that cannot be drawn is left out, and reported: its children are shown whole.
    const matteMode = mask in MATTES ? MATTES[mask as keyof typeof MATTES] : null
    if (cut && matteMode && nodeType(cut.at[0] as DisplayNode).vectors.includes('lottie')) {
      // Whatever the matte cuts stands in one composition, right behind it.
      const matte = this.layer(cut)
      const inner = this.composition(layers)
      layers = [
        ...(matte ? [{ ...matte, td: 1, ind: 1 }] : []),
        { ...this.still(inner), ind: 2, ...(matte ? { tt: matteMode, tp: 1 } : {}) },
      ]
      if (!matte && (mask === 'shape' || mask === 'brightness')) layers = []
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
      ty: 0,
      nm: node.layerId,
      refId: id,
      w: 2 * reach,
      h: 2 * reach,
      ...this.common(node, [reach, reach]),
      ...(masksProperties ? { hasMask: true, masksProperties } : {}),
    }
  }

  /** A composition as a layer that is moved no further than to where it belongs. */
  private still(refId: string): LottieJson {
    const { reach, loop } = this
    return {
      ty: 0,
      refId,
      w: 2 * reach,
      h: 2 * reach,
      ddd: 0,
      ip: 0,
      op: loop.length,
      st: 0,
      sr: 1,
      bm: 0,
      ks: { o: plain(100), p: plain([0, 0]), r: plain(0), s: plain([100, 100]), a: plain([reach, reach]) },
    }
  }

  /** Compositions are cut at their edges: their middle, not their corner, is where their coordinates begin. */
  private composition(layers: readonly LottieJson[]): string {
    const id = `c${this.ids++}`
    const { reach } = this
    const carrier = {
      ty: 3,
      nm: 'middle',
      ddd: 0,
      ip: 0,
      op: this.loop.length,
      st: 0,
      sr: 1,
      ind: layers.length + 1,
      ks: { o: plain(100), p: plain([reach, reach]), r: plain(0), s: plain([100, 100]), a: plain([0, 0]) },
    }
    const inside = layers.map((layer) => ({ ...layer, parent: layers.length + 1 }))
    this.assets.push({ id, layers: [...inside, carrier] })
    return id
  }

  private picture(node: VectorNode, { id, box }: PictureNode): LottieJson | null {
    const refId = this.file(id)
    if (!refId) return null
    const asset = this.assets.find((each) => each.id === refId) as { w: number; h: number }
    const { x, y, width, height } = box
    // The box is the picture scaled: a composition of its own keeps that apart from how the layer moves.
    const layer = {
      ty: 2,
      refId,
      ddd: 0,
      ip: 0,
      op: this.loop.length,
      st: 0,
      sr: 1,
      bm: 0,
      ind: 1,
      ks: {
        o: plain(100),
        p: plain([x, y]),
        r: plain(0),
        a: plain([0, 0]),
        s: plain([(100 * width) / asset.w, (100 * height) / asset.h]),
      },
    }
    const { reach } = this
    return {
      ty: 0,
      nm: node.layerId,
      refId: this.composition([layer]),
      w: 2 * reach,
      h: 2 * reach,
      ...this.common(node, [reach, reach]),
    }
  }

  private file(id: string): string | null {
    const known = this.files.get(id)
    if (known) return known
    const found = this.pictures.get(id)
    if (!found) return null
    const name = `p${this.ids++}`
    this.files.set(id, name)
    this.assets.push({ id: name, w: found.width, h: found.height, u: '', p: found.url, e: 1 })
    return name
  }
}
