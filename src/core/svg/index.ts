import { type Layer, MAX_DEPTH, MAX_NAME } from '../document'
import { newLayer } from '../edit'
import { clampToRange, layerKind, MAX_DASH } from '../layers'
import {
  boxCentre,
  compose,
  IDENTITY,
  MAX_PATH_DATA,
  type Matrix,
  type Path,
  parsePath,
  pathBox,
  scaleOf,
  svgPathData,
  transformPath,
} from '../path'
import { fillOf, mixedWith } from './fill'
import { type Element, parseXml } from './parse'
import type { Reading } from './reading'
import { outlineOf, transformOf } from './shapes'
import { cssLength, inheritedStyle, rulesIn, type Style } from './style'

/** An SVG file that cannot be brought in: what is wrong, and what can be done. */
export class SvgError extends Error {
  override readonly name = 'SvgError'
}

/** Content of an SVG file. */
export interface SvgContent {
  /** A group of all that is drawn, in px from the upper left corner of the picture. */
  readonly layer: Layer
  /** px */
  readonly width: number
  readonly height: number
  /** Names of omitted features, each once. */
  readonly left: readonly string[]
}

/** The largest SVG file that is read, in characters, and the most shapes that are taken from it. */
const MAX_SVG_BYTES = 8 * 1024 * 1024
const MAX_SHAPES = 2000
/** Elements that are visited, those that are used again and again counted each time. */
const MAX_VISITS = 20_000
/** Elements that draw nothing by themselves. */
const SILENT = ['defs', 'style', 'title', 'desc', 'metadata', 'linearGradient', 'radialGradient', 'symbol']
/** Words for elements that cannot be imported. */
const LEFT_OUT: Readonly<Record<string, string>> = {
  image: 'embedded pictures',
  mask: 'masks',
  clipPath: 'clipping paths',
  filter: 'filters',
  pattern: 'patterns',
  marker: 'markers',
  script: 'scripts',
  foreignObject: 'foreign objects',
  animate: 'animation',
  animateTransform: 'animation',
  animateMotion: 'animation',
  set: 'animation',
}

/**
 * The layers of an SVG file: shapes with fills, strokes, gradients and transforms, in their groups; text set in a face
 * that is shipped.
 * @throws SvgError when the text is not SVG, is too large, or holds nothing that can be drawn.
 */
export function readSvg(text: string, name: string): SvgContent {
  if (text.length > MAX_SVG_BYTES)
    throw new SvgError(`${name} is larger than ${MAX_SVG_BYTES / 1024 / 1024} MB. Simplify it first.`)
  const root = parseXml(text)
  if (root?.name !== 'svg') throw new SvgError(`${name} is not an SVG file. It may be damaged or mislabelled.`)
  const byId = new Map<string, Element>()
  const index = (element: Element) => {
    if (element.attributes.id) byId.set(element.attributes.id, element)
    element.children.forEach(index)
  }
  index(root)
  const reading: Reading = { byId, rules: rulesIn(root), left: new Set(), shapes: 0, visits: 0 }
  const { width, height, matrix } = viewOf(root)
  const layers = layersOf(root, inheritedStyle(root, null, reading.rules), matrix, reading, 0)
  if (layers.length === 0)
    throw new SvgError(
      `${name} holds nothing that can be brought in${reading.left.size > 0 ? ` (only ${[...reading.left].join(', ')})` : ''}.`,
    )
  return {
    layer: { ...newLayer('group', name.slice(0, MAX_NAME)), layers: layers.map(withinRanges) },
    width,
    height,
    left: [...reading.left],
  }
}

/** A layer whose values lie in the ranges that their properties have: what a file says may be any number. */
function withinRanges(layer: Layer): Layer {
  const { properties } = layerKind(layer.kind)
  const values = Object.entries(layer.values).map(([key, value]) => {
    const property = properties[key]
    if (Array.isArray(value) && property?.type === 'numbers')
      return [key, value.map((each) => Math.min(MAX_DASH, Math.max(0, Number(each) || 0)))]
    return [key, property ? clampToRange(property, value) : value]
  })
  return {
    ...layer,
    values: Object.fromEntries(values),
    ...(layer.layers ? { layers: layer.layers.map(withinRanges) } : {}),
  }
}

/** Size of the picture, and the transform from its own units to px (SVG 2, § 8). */
function viewOf({ attributes }: Element) {
  const box = (attributes.viewBox ?? '').split(/[\s,]+/).map(Number)
  const [x = 0, y = 0, w = Number.NaN, h = Number.NaN] = box
  const sized = w > 0 && h > 0
  const given = (value: string | undefined, other: number) =>
    value === undefined || value.endsWith('%') ? other : cssLength(value, other)
  const width = Math.min(1e5, Math.max(1, given(attributes.width, sized ? w : 300)))
  const height = Math.min(1e5, Math.max(1, given(attributes.height, sized ? h : 150)))
  if (!sized) return { width, height, matrix: IDENTITY }
  const scale = Math.min(width / w, height / h)
  const matrix: Matrix = [scale, 0, 0, scale, (width - w * scale) / 2 - x * scale, (height - h * scale) / 2 - y * scale]
  return { width, height, matrix }
}

function layersOf(parent: Element, style: Style, matrix: Matrix, reading: Reading, depth: number): Layer[] {
  return parent.children.flatMap((element) => layerOf(element, style, matrix, reading, depth))
}

function layerOf(element: Element, outer: Style, matrix: Matrix, reading: Reading, depth: number): Layer[] {
  const { name, attributes, children } = element
  if (++reading.visits > MAX_VISITS) {
    reading.left.add(`elements beyond the first ${MAX_VISITS}`)
    return []
  }
  if (SILENT.includes(name)) return []
  const said = LEFT_OUT[name]
  if (said) {
    reading.left.add(said)
    return []
  }
  for (const reference of ['mask', 'filter', 'clip-path'])
    if ((attributes[reference] ?? 'none') !== 'none')
      reading.left.add(LEFT_OUT[reference === 'clip-path' ? 'clipPath' : reference] ?? reference)
  const style = inheritedStyle(element, outer, reading.rules)
  if (style.hidden) return []
  const own = compose(matrix, transformOf(attributes.transform))
  const called = (attributes.id ?? attributes['inkscape:label'] ?? name).slice(0, MAX_NAME)
  if (name === 'use') {
    const target = reading.byId.get((attributes.href ?? attributes['xlink:href'] ?? '').replace('#', ''))
    if (!target || depth > MAX_DEPTH - 4) return []
    const at: Matrix = [1, 0, 0, 1, cssLength(attributes.x, 0), cssLength(attributes.y, 0)]
    const shown = target.name === 'symbol' ? { ...target, name: 'g' } : target
    return layerOf(shown, style, compose(own, at), reading, depth + 1)
  }
  if (name === 'g' || name === 'a' || name === 'svg' || name === 'switch') {
    if (depth > MAX_DEPTH - 4) {
      reading.left.add('groups that stand too deep')
      return []
    }
    const held = children.flatMap((child) => layerOf(child, { ...style, opacity: 1 }, own, reading, depth + 1))
    if (held.length === 0) return []
    return [{ ...newLayer('group', called, { opacity: style.opacity }), layers: held }]
  }
  if (name === 'text') return textLayer(element, style, own)
  if (Math.max(attributes.d?.length ?? 0, attributes.points?.length ?? 0) > MAX_PATH_DATA) {
    reading.left.add('paths that are too long')
    return []
  }
  const outline = outlineOf(element)
  if (!outline) {
    if (!name.startsWith('#') && !name.includes(':')) reading.left.add(`<${name}>`)
    return []
  }
  if (outline.length === 0) return []
  if (++reading.shapes > MAX_SHAPES) {
    reading.left.add(`shapes beyond the first ${MAX_SHAPES}`)
    return []
  }
  return shapeLayer(called, outline, style, own, reading)
}

/** A shape as a path about its own centre, its transform worked into its points. */
function shapeLayer(name: string, outline: Path, style: Style, matrix: Matrix, reading: Reading): Layer[] {
  const path = transformPath(outline, matrix)
  const box = pathBox(path)
  if (!box) return []
  const centre = boxCentre(box)
  const data = svgPathData(transformPath(path, [1, 0, 0, 1, -centre.x, -centre.y]))
  if (data.length > MAX_PATH_DATA || parsePath(data) === null) {
    reading.left.add('paths that are too long')
    return []
  }
  const scale = scaleOf(matrix)
  return [
    newLayer('path', name, {
      ...centre,
      path: data,
      opacity: style.opacity,
      ...fillOf(style, reading),
      stroke: mixedWith(style.stroke, style.strokeOpacity),
      strokeWidth: style.strokeWidth * scale,
      cap: style.cap,
      join: style.join,
      dash: style.dash.map((length) => length * scale),
      dashOffset: style.dashOffset * scale,
    }),
  ]
}

function textLayer(element: Element, style: Style, matrix: Matrix): Layer[] {
  const words = element.text.replaceAll(/\s+/g, ' ').trim()
  if (!words) return []
  const [a, b, c, d] = matrix
  const scale = scaleOf(matrix)
  const size = Math.max(1, style.fontSize * scale)
  const x = cssLength(element.attributes.x, 0)
  const y = cssLength(element.attributes.y, 0)
  const anchor = { start: 0.5, middle: 0, end: -0.5 }[style.anchor] ?? 0.5
  const width = words.length * size * 0.55
  return [
    newLayer('text', words.slice(0, 40), {
      text: words.slice(0, 500),
      size,
      face: style.bold ? 'bold' : 'regular',
      x: a * x + c * y + matrix[4] + anchor * width,
      y: b * x + d * y + matrix[5] - size * 0.35,
      rotation: Number(((Math.atan2(b, a) * 180) / Math.PI).toFixed(3)),
      opacity: style.opacity,
      fill: mixedWith(style.fill, style.fillOpacity),
    }),
  ]
}
