import type { Fill, Gradient, Stroke } from '@/core/display'
import { filledIn } from '@/core/output'
import { element, fixed, px, type Writer } from './writer'

export function fillAttributes(writer: Writer, series: readonly (Fill | null)[]): string {
  const fills = filledIn(series)
  if (!fills) return ''
  const gradients = fills.map(({ gradient }) => gradient)
  const paint = gradients.every((each) => each !== undefined)
    ? [fixed(`fill="url(#${gradientOf(writer, gradients as Gradient[])})"`)]
    : writer.colours(
        'fill',
        'fill-opacity',
        fills.map(({ colour }) => colour),
      )
  return element('path', [writer.path(fills.map(({ path }) => path)), ...paint])
}

function gradientOf(writer: Writer, series: readonly Gradient[]): string {
  const id = writer.id()
  const [{ type, stops }] = series as [Gradient]
  const along = (name: string, of: (gradient: Gradient) => number) => writer.lengths(name, series.map(of))
  const places =
    type === 'linear'
      ? [
          along('x1', ({ from }) => from.x),
          along('y1', ({ from }) => from.y),
          along('x2', ({ to }) => to.x),
          along('y2', ({ to }) => to.y),
        ]
      : [
          along('cx', ({ from }) => from.x),
          along('cy', ({ from }) => from.y),
          along('r', ({ from, to }) => Math.hypot(to.x - from.x, to.y - from.y)),
        ]
  const inner = stops.map((_, i) => {
    const own = series.map((each) => each.stops[Math.min(i, each.stops.length - 1)] as Gradient['stops'][number])
    const offset = writer.shares(
      'offset',
      own.map(({ at }) => at),
    )
    const colours = own.map(({ colour }) => colour)
    return element('stop', [offset, ...writer.colours('stop-color', 'stop-opacity', colours)])
  })
  const name = `${type}Gradient`
  const head = [fixed(`id="${id}"`), fixed('gradientUnits="userSpaceOnUse"')]
  writer.definitions.push(element(name, [...head, ...places], inner.join('')))
  return id
}

export function strokeAttributes(writer: Writer, series: readonly (Stroke | null)[]): string {
  const strokes = filledIn(series)
  if (!strokes) return ''
  const [{ cap, join }] = strokes as [Stroke]
  const dashed = strokes.some(({ dash }) => dash.length > 0)
  const dash = dashed
    ? [
        writer.steps(
          'stroke-dasharray',
          strokes.map((each) => each.dash.map(px).join(' ') || 'none'),
        ),
        writer.lengths(
          'stroke-dashoffset',
          strokes.map(({ dashOffset }) => dashOffset),
        ),
      ]
    : []
  return element('path', [
    fixed('fill="none"'),
    writer.path(strokes.map(({ path }) => path)),
    ...writer.colours(
      'stroke',
      'stroke-opacity',
      strokes.map(({ colour }) => colour),
    ),
    writer.lengths(
      'stroke-width',
      strokes.map(({ width }) => width),
    ),
    ...dash,
    ...(cap === 'butt' ? [] : [fixed(`stroke-linecap="${cap}"`)]),
    // Canvases cut a mitre at ten times the width, SVG at four.
    fixed(join === 'miter' ? 'stroke-miterlimit="10"' : `stroke-linejoin="${join}"`),
  ])
}
