import type { Loop } from '@/core/document'
import { vectorNodes } from '@/core/output'
import type { EmbeddedPictures } from '../embedded'
import { Composer } from './composer'
import { boxPath } from './lines'
import { groupItem } from './paint'
import { colourOf, type LottieJson, plain } from './values'

/**
 * A loop as Lottie JSON (Lottie specification 1.0): one file, whose frames are those of the loop. What it cannot show is
 * named by `inexpressible`.
 * @param scale of its size against the loop's
 * @param pictures what it shows of media
 */
export function lottieOf(loop: Loop, scale = 1, pictures: EmbeddedPictures = new Map()): LottieJson {
  const { width, height, background, length, rate, name } = loop
  const composer = new Composer(loop, pictures, 3 * Math.max(width, height))
  const layers = composer.layers(vectorNodes(loop))
  const [r, g, b, a] = background ? colourOf(background) : [0, 0, 0, 0]
  const ground: LottieJson = {
    ty: 4,
    nm: 'background',
    ddd: 0,
    ip: 0,
    op: length,
    st: 0,
    sr: 1,
    bm: 0,
    ind: layers.length + 1,
    ks: { o: plain(100), p: plain([0, 0]), r: plain(0), s: plain([100, 100]), a: plain([0, 0]) },
    shapes: [
      groupItem([
        { ty: 'sh', ks: plain(boxPath(0, 0, width, height)) },
        { ty: 'fl', r: 1, c: plain([r, g, b, 1]), o: plain(100 * a) },
      ]),
    ],
  }
  const all = background ? [...layers, ground] : layers
  const w = Math.round(width * scale)
  const h = Math.round(height * scale)
  const sized =
    scale === 1
      ? all
      : [
          ...all.map((layer) => ({ ...layer, parent: all.length + 1 })),
          {
            ty: 3,
            nm: 'size',
            ddd: 0,
            ip: 0,
            op: length,
            st: 0,
            sr: 1,
            ind: all.length + 1,
            ks: {
              o: plain(100),
              p: plain([0, 0]),
              r: plain(0),
              a: plain([0, 0]),
              s: plain([(100 * w) / width, (100 * h) / height]),
            },
          },
        ]
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
    layers: sized,
  }
}
