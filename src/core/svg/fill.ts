import { isColour, withAlpha } from '../colour'
import { FILL, type Stop } from '../layers'
import type { Element } from './parse'
import type { Reading } from './reading'
import { transformOf } from './shapes'
import { cssLength, inheritedStyle, type Style } from './style'

const MAX_STOPS = FILL.fillStops.most

/** A plain fill, or a gradient. */
export function fillOf(style: Style, reading: Reading) {
  const reference = /^url\(\s*["']?#([^"')]+)["']?\s*\)/.exec(style.fill)
  if (!reference) return { fill: mixedWith(style.fill, style.fillOpacity) }
  const gradient = reading.byId.get(reference[1] ?? '')
  const linked =
    gradient && reading.byId.get((gradient.attributes.href ?? gradient.attributes['xlink:href'] ?? '').replace('#', ''))
  const stops = [gradient, linked]
    .map((each) => each?.children.filter(({ name }) => name === 'stop') ?? [])
    .find((each) => each.length > 0)
  const kind = gradient?.name === 'linearGradient' ? 'linear' : gradient?.name === 'radialGradient' ? 'radial' : null
  if (!kind || !stops) {
    reading.left.add('patterns')
    return { fill: null }
  }
  const colourOf = (stop: Element | undefined) => {
    const own = stop && inheritedStyle(stop, null, reading.rules)
    return mixedWith(own?.stopColour ?? 'black', own?.stopOpacity ?? 1) ?? 'transparent'
  }
  const { first, middle, last } = stopsOf(stops.map((stop) => ({ at: stopOffset(stop), colour: colourOf(stop) })))
  if (middle.length > MAX_STOPS) reading.left.add(`colours of gradients beyond ${MAX_STOPS + 2}`)
  const [x1, y1, x2, y2] = (['x1', 'y1', 'x2', 'y2'] as const).map((key) => {
    const value = gradient?.attributes[key] ?? linked?.attributes[key]
    return value === undefined
      ? key === 'x2'
        ? 1
        : 0
      : value.endsWith('%')
        ? cssLength(value, 0) / 100
        : cssLength(value, 0)
  }) as [number, number, number, number]
  const of = (key: string) => gradient?.attributes[key] ?? linked?.attributes[key]
  // A gradient runs over the whole shape here; what begins or ends elsewhere is said.
  if (of('gradientUnits') === 'userSpaceOnUse' || of('gradientTransform') !== undefined)
    reading.left.add('where gradients begin and end')
  const [a, b, c, d] = transformOf(of('gradientTransform'))
  const across = a * (x2 - x1) + c * (y2 - y1)
  const down = b * (x2 - x1) + d * (y2 - y1)
  return {
    fill: first,
    fillTo: last,
    fillStops: middle.slice(0, MAX_STOPS),
    fillKind: kind,
    fillAngle: kind === 'linear' ? Number(((Math.atan2(down, across) * 180) / Math.PI).toFixed(2)) : 90,
  }
}

/** Where a stop lies, a share of the way (SVG 2, § 14.2.4). */
const stopOffset = ({ attributes: { offset = '0' } }: Element): number =>
  Math.min(1, Math.max(0, cssLength(offset, 0) / (offset.trim().endsWith('%') ? 100 : 1)))

/** The colours at both ends and those between; no stop lies before the one that it follows. */
function stopsOf(stops: readonly Stop[]): { first: string; middle: Stop[]; last: string } {
  let reached = 0
  const ordered = stops.map(({ at, colour }) => {
    reached = Math.max(reached, at)
    return { at: Number(reached.toFixed(4)), colour }
  })
  const head = ordered[0]
  const tail = ordered.at(-1)
  return {
    first: head?.colour ?? 'black',
    middle: ordered.filter((stop) => (stop !== head || stop.at > 0) && (stop !== tail || stop.at < 1)),
    last: tail?.colour ?? 'black',
  }
}

/** A colour with its opacity worked in; null for none. */
export function mixedWith(paint: string, opacity: number): string | null {
  if (paint === 'none' || paint === 'transparent' || !isColour(paint)) return null
  return opacity >= 1 ? paint : withAlpha(paint, opacity)
}
