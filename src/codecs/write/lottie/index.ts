import type { Loop } from '@/core/document'
import { vectorNodes } from '@/core/output'
import type { EmbeddedPictures } from '../embedded'
import { Composer } from './composer'
import { boxPath } from './lines'
import { groupItem } from './paint'
import { colourOf, type LottieJson, plain } from './values'

/** Fields that every layer of the file has; it lasts the whole loop. */
const wholeLayer = (type: number, name: string, length: number): LottieJson => ({
  ty: type,
  nm: name,
  ddd: 0,
  ip: 0,
  op: length,
  st: 0,
  sr: 1,
})

/** The background of a loop as a layer. */
function groundLayer({ width, height, length }: Loop, background: string, index: number): LottieJson {
  const [r, g, b, a] = colourOf(background)
  return {
    ...wholeLayer(4, 'background', length),
    bm: 0,
    ind: index,
    ks: { o: plain(100), p: plain([0, 0]), r: plain(0), s: plain([100, 100]), a: plain([0, 0]) },
    shapes: [
      groupItem([
        { ty: 'sh', ks: plain(boxPath(0, 0, width, height)) },
        { ty: 'fl', r: 1, c: plain([r, g, b, 1]), o: plain(100 * a) },
      ]),
    ],
  }
}

/** Layers under a parent that scales them, in per cent across and down. */
function scaledLayers(layers: readonly LottieJson[], length: number, percent: [number, number]): LottieJson[] {
  const parent = {
    ...wholeLayer(3, 'size', length),
    ind: layers.length + 1,
    ks: { o: plain(100), p: plain([0, 0]), r: plain(0), a: plain([0, 0]), s: plain(percent) },
  }
  return [...layers.map((layer) => ({ ...layer, parent: parent.ind })), parent]
}

/**
 * A loop as Lottie JSON (Lottie specification 1.0): one file, whose frames are those of the loop. What it cannot show is
 * named by `inexpressible`.
 * @param scale of its size against the loop's
 * @param pictures what it shows of media
 */
export function lottieOf(loop: Loop, scale = 1, pictures: EmbeddedPictures = new Map()): LottieJson {
  const { width, height, background, length, rate, name } = loop
  const composer = new Composer(loop, pictures, 3 * Math.max(width, height))
  const drawn = composer.layers(vectorNodes(loop))
  const all = background ? [...drawn, groundLayer(loop, background, drawn.length + 1)] : drawn
  const w = Math.round(width * scale)
  const h = Math.round(height * scale)
  return {
    v: '5.7.0',
    fr: rate.num / rate.den,
    ip: 0,
    op: length,
    w,
    h,
    nm: name,
    ddd: 0,
    assets: composer.assets,
    layers: scale === 1 ? all : scaledLayers(all, length, [(100 * w) / width, (100 * h) / height]),
  }
}
