import { type Drawing, type Gradient, LINE_CAPS, LINE_JOINS } from '../display'
import { boxCentre, type Path, type Point, pathBox, pathSpan } from '../path'
import type { PropertyTable, ValuesOf } from './property'
import type { Stop, Values } from './types'

const isGraded = ({ fill, fillKind }: Values) => fill !== null && fillKind !== 'plain'

export const FILL = {
  fill: { type: 'colour', label: 'fill', section: 'fill', default: '#f2b54a', moves: true },
  fillKind: {
    type: 'choice',
    label: 'gradient',
    section: 'fill',
    options: ['plain', 'linear', 'radial'],
    default: 'plain',
    when: ({ fill }) => fill !== null,
  },
  fillTo: {
    type: 'colour',
    label: 'to colour',
    section: 'fill',
    default: '#0f3b52',
    moves: true,
    when: isGraded,
  },
  fillStops: { type: 'stops', label: 'between', section: 'fill', default: [], most: 14, when: isGraded },
  fillAngle: {
    type: 'number',
    label: 'direction',
    section: 'fill',
    unit: '°',
    default: 90,
    step: 5,
    moves: true,
    equivalence: 360,
    newTravel: 360,
    when: ({ fill, fillKind }) => fill !== null && fillKind === 'linear',
  },
  fillStart: {
    type: 'number',
    label: 'starts at',
    section: 'fill',
    unit: 'share',
    default: 0,
    step: 0.05,
    moves: true,
    when: isGraded,
  },
  fillEnd: {
    type: 'number',
    label: 'ends at',
    section: 'fill',
    unit: 'share',
    default: 1,
    step: 0.05,
    moves: true,
    when: isGraded,
  },
} as const satisfies PropertyTable

const inOrder = (stops: readonly Stop[]) => [...stops].sort((a, b) => a.at - b.at)

type FillValues = ValuesOf<typeof FILL>

/**
 * The gradient of a fill over the box of its outline: linear across it in a direction (degrees clockwise, 0 to the
 * right), radial from its middle to its farthest corner; start and end are shares of that way.
 */
function gradientOf(outline: Path, values: FillValues): Gradient | undefined {
  const { fill, fillKind, fillTo, fillStops, fillAngle, fillStart, fillEnd } = values
  const box = fillKind === 'plain' || !fill ? null : pathBox(outline)
  if (!box || !fill) return undefined
  const angle = fillKind === 'linear' ? (fillAngle * Math.PI) / 180 : 0
  const dx = Math.cos(angle)
  const dy = Math.sin(angle)
  const half =
    fillKind === 'linear'
      ? (Math.abs(dx) * box.width + Math.abs(dy) * box.height) / 2
      : Math.max(box.width, box.height) / 2
  const centre = boxCentre(box)
  const place = (share: number): Point => {
    const along = fillKind === 'linear' ? (2 * share - 1) * half : share * half
    return { x: centre.x + dx * along, y: centre.y + dy * along }
  }
  // A gradient of no length is a hard edge; the standard's rule for it is the last colour alone.
  const last = Math.abs(fillEnd - fillStart) < 1e-6 ? fillStart + 1e-6 : fillEnd
  const stops = [{ at: 0, colour: fill }, ...inOrder(fillStops), { at: 1, colour: fillTo ?? 'transparent' }]
  if (fillKind === 'linear') return { type: 'linear', from: place(fillStart), to: place(last), stops }
  const outer = Math.max(fillStart, last, 1e-6)
  const inner = Math.max(0, Math.min(fillStart, last)) / outer
  const outwards = fillStart <= last ? stops : stops.map(({ at, colour }) => ({ at: 1 - at, colour })).reverse()
  return {
    type: 'radial',
    from: centre,
    to: place(outer),
    stops: outwards.map(({ at, colour }) => ({ at: inner + (1 - inner) * at, colour })),
  }
}

/** Sum of a dash pattern: an odd number of entries counts twice, as in SVG. */
const dashPitch = (values: Values): number | undefined => {
  const dash = values.dash as readonly number[]
  const sum = dash.reduce((a, b) => a + b, 0)
  return sum > 0 ? sum * (dash.length % 2 === 0 ? 1 : 2) : undefined
}

export const STROKE = {
  stroke: { type: 'colour', label: 'stroke', section: 'stroke', default: null, moves: true },
  strokeWidth: {
    type: 'number',
    label: 'stroke width',
    section: 'stroke',
    unit: 'px',
    default: 8,
    min: 0,
    step: 1,
    moves: true,
  },
  cap: { type: 'choice', label: 'caps', section: 'stroke', options: LINE_CAPS, default: 'butt' },
  join: { type: 'choice', label: 'joins', section: 'stroke', options: LINE_JOINS, default: 'miter', seldom: true },
  dash: { type: 'numbers', label: 'dash', section: 'stroke', unit: 'px', default: [], most: 16, seldom: true },
  dashOffset: {
    type: 'number',
    label: 'dash offset',
    section: 'stroke',
    unit: 'px',
    default: 0,
    step: 1,
    moves: true,
    equivalence: dashPitch,
    seldom: true,
  },
  spanStart: {
    type: 'number',
    label: 'start',
    section: 'span',
    unit: 'share',
    default: 0,
    step: 0.01,
    moves: true,
    equivalence: 1,
    jointly: 'span',
  },
  spanEnd: {
    type: 'number',
    label: 'end',
    section: 'span',
    unit: 'share',
    default: 1,
    step: 0.01,
    moves: true,
    equivalence: 1,
    jointly: 'span',
  },
  spanOffset: {
    type: 'number',
    label: 'offset',
    section: 'span',
    unit: 'share',
    default: 0,
    step: 0.01,
    moves: true,
    equivalence: 1,
    newTravel: 1,
  },
} as const satisfies PropertyTable

type StrokeValues = ValuesOf<typeof STROKE>

/** An outline with a layer's fill and stroke. The fill covers the whole outline, the stroke only its span. */
export function paintOutline(outline: Path, values: StrokeValues & Partial<FillValues>): Drawing {
  const { stroke, strokeWidth, cap, join, dash, dashOffset, spanStart, spanEnd, spanOffset } = values
  const gradient = values.fill ? gradientOf(outline, values as FillValues) : undefined
  return {
    type: 'shape',
    fill: values.fill ? { path: outline, colour: values.fill, ...(gradient ? { gradient } : {}) } : null,
    stroke:
      stroke && strokeWidth > 0
        ? {
            path: pathSpan(outline, spanStart, spanEnd, spanOffset),
            colour: stroke,
            width: strokeWidth,
            cap,
            join,
            dash,
            dashOffset,
          }
        : null,
  }
}

/** Whether the painting itself is as symmetric as its outline: no dash, no gradient across, no part of the stroke left out. */
export const paintsWholeOutline = (values: Values): boolean => {
  const { stroke, dash, spanStart, spanEnd } = values as unknown as StrokeValues
  const directed = values.fill !== null && values.fillKind === 'linear'
  return !directed && (stroke === null || (dash.length === 0 && spanEnd - spanStart >= 1))
}
