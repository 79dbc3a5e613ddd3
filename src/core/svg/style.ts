import type { Element } from './parse'

/** Paint of an element, inherited properties included (SVG 2, § 13). */
export interface Style {
  readonly fill: string
  readonly fillOpacity: number
  readonly stroke: string
  readonly strokeOpacity: number
  /** In the element's own units. */
  readonly strokeWidth: number
  readonly cap: 'butt' | 'round' | 'square'
  readonly join: 'miter' | 'round' | 'bevel'
  readonly dash: readonly number[]
  readonly dashOffset: number
  readonly fontSize: number
  readonly bold: boolean
  readonly anchor: string
  readonly stopColour: string
  readonly stopOpacity: number
  /** Of the element and what it is in, as far as those are not groups of their own. */
  readonly opacity: number
  readonly hidden: boolean
}

const PLAIN: Style = {
  fill: 'black',
  fillOpacity: 1,
  stroke: 'none',
  strokeOpacity: 1,
  strokeWidth: 1,
  cap: 'butt',
  join: 'miter',
  dash: [],
  dashOffset: 0,
  fontSize: 16,
  bold: false,
  anchor: 'start',
  stopColour: 'black',
  stopOpacity: 1,
  opacity: 1,
  hidden: false,
}

const UNITS: Readonly<Record<string, number>> = {
  px: 1,
  pt: 4 / 3,
  pc: 16,
  mm: 96 / 25.4,
  cm: 96 / 2.54,
  in: 96,
  '': 1,
  '%': 1,
}

/** A CSS length in px, or the fallback where it is none. */
export function cssLength(text: string | undefined, fallback: number): number {
  const match = /^\s*(-?(?:\d+\.?\d*|\.\d+)(?:e[+-]?\d+)?)\s*([a-z%]*)\s*$/i.exec(text ?? '')
  const factor = match ? UNITS[(match[2] ?? '').toLowerCase()] : undefined
  return match && factor !== undefined ? Number(match[1]) * factor : fallback
}

const share = (text: string | undefined, fallback: number): number => {
  const value = cssLength(text, fallback) / (text?.trim().endsWith('%') ? 100 : 1)
  return Math.min(1, Math.max(0, value))
}

type Declarations = Readonly<Record<string, string>>

const declarations = (text: string): Declarations =>
  Object.fromEntries(
    text
      .split(';')
      .map((each) => each.split(':').map((part) => part.trim()))
      .filter(([name, value]) => name && value)
      .map(([name, value]) => [name as string, (value as string).replace(/\s*!important$/, '')]),
  )

/** The rules of a document's style sheets, by simple selector: `.class`, `#id`, `element`. Others are not looked at. */
export function rulesIn(root: Element): ReadonlyMap<string, Declarations> {
  const rules = new Map<string, Declarations>()
  const visit = (element: Element) => {
    if (element.name === 'style')
      for (const rule of withoutComments(element.text).split('}')) {
        const [selectors = '', body] = rule.split('{')
        if (body === undefined) continue
        for (const selector of selectors.split(',').map((each) => each.trim()))
          rules.set(selector, { ...rules.get(selector), ...declarations(body) })
      }
    element.children.forEach(visit)
  }
  visit(root)
  return rules
}

/** A style sheet without its comments, in one pass. */
function withoutComments(text: string): string {
  const [first = '', ...others] = text.split('/*')
  return first + others.map((part) => part.split('*/').slice(1).join('*/')).join('')
}

/** The style of an element inside one of another style. */
export function inheritedStyle(element: Element, outer: Style | null, rules: ReadonlyMap<string, Declarations>): Style {
  const { attributes } = element
  const classes = (attributes.class ?? '').split(/\s+/).filter(Boolean)
  const said: Declarations = {
    ...attributes,
    ...rules.get(element.name),
    ...Object.assign({}, ...classes.map((name) => rules.get(`.${name}`))),
    ...rules.get(`#${attributes.id}`),
    ...declarations(attributes.style ?? ''),
  }
  const base = outer ?? PLAIN
  const current = said.color ?? 'black'
  const paint = (name: string, inherited: string) => {
    const value = said[name]
    return value === undefined || value === 'inherit' ? inherited : value === 'currentColor' ? current : value
  }
  const dash = said['stroke-dasharray']
  return {
    fill: paint('fill', base.fill),
    fillOpacity: share(said['fill-opacity'], base.fillOpacity),
    stroke: paint('stroke', base.stroke),
    strokeOpacity: share(said['stroke-opacity'], base.strokeOpacity),
    strokeWidth: Math.max(0, cssLength(said['stroke-width'], base.strokeWidth)),
    cap: (['butt', 'round', 'square'] as const).find((each) => each === said['stroke-linecap']) ?? base.cap,
    join: (['miter', 'round', 'bevel'] as const).find((each) => each === said['stroke-linejoin']) ?? base.join,
    dash: dash === undefined ? base.dash : dashOf(dash),
    dashOffset: cssLength(said['stroke-dashoffset'], base.dashOffset),
    fontSize: cssLength(said['font-size'], base.fontSize),
    bold:
      said['font-weight'] === undefined
        ? base.bold
        : said['font-weight'] === 'bold' || Number(said['font-weight']) >= 600,
    anchor: said['text-anchor'] ?? base.anchor,
    stopColour: paint('stop-color', 'black'),
    stopOpacity: share(said['stop-opacity'], 1),
    opacity: share(said.opacity, 1) * base.opacity,
    hidden: said.display === 'none' || said.visibility === 'hidden' || base.hidden,
  }
}

const dashOf = (text: string): number[] =>
  text === 'none'
    ? []
    : text
        .split(/[\s,]+/)
        .map((each) => cssLength(each, Number.NaN))
        .filter((each) => each >= 0)
        .slice(0, 16)
