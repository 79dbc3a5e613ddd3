import type { Fill, Gradient, Stroke } from '@/core/display'
import { filledIn } from '@/core/output'
import { shapesOf } from './lines'
import { animated, colourOf, type LottieJson, plain } from './values'

const CAPS = { butt: 1, round: 2, square: 3 } as const
const JOINS = { miter: 1, round: 2, bevel: 3 } as const

/** Colour and opacity of a fill, a stroke or the stops of a gradient. */
function paint(colours: readonly string[]): LottieJson {
  const parts = colours.map(colourOf)
  return {
    c: animated(
      parts.map(([r, g, b]) => [r, g, b, 1]),
      0.002,
    ),
    o: animated(parts.map(([, , , a]) => [100 * a])),
  }
}

function gradient(series: readonly Gradient[]): LottieJson {
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
    ty: 'gf',
    r: 1,
    o: plain(100),
    t: type === 'linear' ? 1 : 2,
    s: animated(series.map(({ from }) => [from.x, from.y])),
    e: animated(series.map(({ to }) => [to.x, to.y])),
    g: { p: stops.length, k: animated(colours, 0.002) },
  }
}

export function fillItems(series: readonly (Fill | null)[]): LottieJson[] {
  const fills = filledIn(series)
  if (!fills) return []
  const gradients = fills.map((each) => each.gradient)
  const painted = gradients.every((each) => each !== undefined)
    ? gradient(gradients as Gradient[])
    : { ty: 'fl', r: 1, ...paint(fills.map(({ colour }) => colour)) }
  return [groupItem([...shapesOf(fills.map(({ path }) => path)), painted])]
}

export function strokeItems(series: readonly (Stroke | null)[]): LottieJson[] {
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
              n: i % 2 === 0 ? 'd' : 'g',
              nm: `${i % 2 === 0 ? 'dash' : 'gap'} ${i >> 1}`,
              v: animated(pattern(i)),
            })),
            { n: 'o', nm: 'offset', v: animated(strokes.map(({ dashOffset }) => [dashOffset])) },
          ],
        }
  const painted = {
    ty: 'st',
    lc: CAPS[cap],
    lj: JOINS[join],
    ml: 10,
    ...dashed,
    ...paint(strokes.map(({ colour }) => colour)),
    w: animated(strokes.map(({ width }) => [width])),
  }
  return [groupItem([...shapesOf(strokes.map(({ path }) => path)), painted])]
}

export const groupItem = (items: readonly LottieJson[]): LottieJson => ({
  ty: 'gr',
  it: [...items, { ty: 'tr', p: plain([0, 0]), a: plain([0, 0]), s: plain([100, 100]), r: plain(0), o: plain(100) }],
})
