import { type Drawing, LINE_CAPS, LINE_JOINS } from '../loop/display-list'
import { type Path, pathSpan } from '../path'
import type { PropertyTable, Values, ValuesOf } from './property'

export const FILL = {
  fill: { type: 'colour', label: 'fill', section: 'fill', default: '#f2b54a', moves: true },
} as const satisfies PropertyTable

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
    label: 'width',
    section: 'stroke',
    unit: 'px',
    default: 8,
    min: 0,
    step: 1,
    moves: true,
  },
  cap: { type: 'choice', label: 'caps', section: 'stroke', options: LINE_CAPS, default: 'butt' },
  join: { type: 'choice', label: 'joins', section: 'stroke', options: LINE_JOINS, default: 'miter' },
  dash: { type: 'numbers', label: 'dash', section: 'stroke', unit: 'px', default: [], most: 16 },
  dashOffset: {
    type: 'number',
    label: 'dash offset',
    section: 'stroke',
    unit: 'px',
    default: 0,
    step: 1,
    moves: true,
    equivalence: dashPitch,
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
export function paintOutline(outline: Path, values: StrokeValues & { readonly fill?: string | null }): Drawing {
  const { stroke, strokeWidth, cap, join, dash, dashOffset, spanStart, spanEnd, spanOffset } = values
  return {
    type: 'shape',
    fill: values.fill ? { path: outline, colour: values.fill } : null,
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

/** Whether the painting itself is as symmetric as its outline: no dash and no part of the stroke left out. */
export const paintsWholeOutline = (values: Values): boolean => {
  const { stroke, dash, spanStart, spanEnd } = values as unknown as StrokeValues
  return stroke === null || (dash.length === 0 && spanEnd - spanStart >= 1)
}
