import { compose, IDENTITY, MAX_PATH_DATA, type Matrix, type Path, parsePath } from '../path'
import type { Element } from './parse'
import { cssLength } from './style'

/** The outline of a basic shape or path (SVG 2, § 9 and 10); null where the element is none. */
export function outlineOf({ name, attributes }: Element): Path | null {
  const n = (key: string, fallback = 0) => cssLength(attributes[key], fallback)
  // A longer path is left out, and reported, before it is parsed.
  const data = (text: string): Path => (text.length > MAX_PATH_DATA ? [] : (parsePath(text) ?? []))
  switch (name) {
    case 'path':
      return data(attributes.d ?? '')
    case 'line':
      return data(`M${n('x1')} ${n('y1')}L${n('x2')} ${n('y2')}`)
    case 'polyline':
    case 'polygon': {
      const points = (attributes.points ?? '').trim()
      return points ? data(`M${points}${name === 'polygon' ? 'Z' : ''}`) : []
    }
    case 'circle':
    case 'ellipse': {
      const cx = n('cx')
      const cy = n('cy')
      const rx = name === 'circle' ? n('r') : n('rx', n('ry'))
      const ry = name === 'circle' ? n('r') : n('ry', n('rx'))
      return rx > 0 && ry > 0
        ? data(`M${cx + rx} ${cy}A${rx} ${ry} 0 0 1 ${cx - rx} ${cy}A${rx} ${ry} 0 0 1 ${cx + rx} ${cy}Z`)
        : []
    }
    case 'rect': {
      const x = n('x')
      const y = n('y')
      const w = n('width')
      const h = n('height')
      if (!(w > 0 && h > 0)) return []
      const rx = Math.min(w / 2, n('rx', n('ry')))
      const ry = Math.min(h / 2, n('ry', n('rx')))
      if (!(rx > 0 && ry > 0)) return data(`M${x} ${y}H${x + w}V${y + h}H${x}Z`)
      const arc = (dx: number, dy: number) => `a${rx} ${ry} 0 0 1 ${dx} ${dy}`
      return data(
        `M${x + rx} ${y}H${x + w - rx}${arc(rx, ry)}V${y + h - ry}${arc(-rx, ry)}H${x + rx}${arc(-rx, -ry)}V${y + ry}${arc(rx, -ry)}Z`,
      )
    }
    default:
      return null
  }
}

const radians = (degrees: number) => (degrees * Math.PI) / 180

/** Longer transforms are none that anybody writes. */
const MAX_TRANSFORM = 10_000

/** The matrix of a transform attribute (CSS Transforms 1, § 8); what is not understood changes nothing. */
export function transformOf(text: string | undefined): Matrix {
  let matrix = IDENTITY
  if ((text?.length ?? 0) > MAX_TRANSFORM) return matrix
  for (const [, name, list = ''] of (text ?? '').matchAll(/([a-zA-Z]+)\s*\(([^)]*)\)/g)) {
    const numbers = list
      .split(/[\s,]+/)
      .filter(Boolean)
      .map((each) => Number(each.replace(/deg|px/, '')))
    if (numbers.some((each) => !Number.isFinite(each))) continue
    matrix = compose(matrix, single(name ?? '', numbers))
  }
  return matrix
}

function single(name: string, numbers: readonly number[]): Matrix {
  const [a = 0, b = 0, c = 0, d = 0, e = 0, f = 0] = numbers
  switch (name) {
    case 'matrix':
      return numbers.length === 6 ? [a, b, c, d, e, f] : IDENTITY
    case 'translate':
      return [1, 0, 0, 1, a, b]
    case 'scale':
      return [a, 0, 0, numbers.length > 1 ? b : a, 0, 0]
    case 'rotate': {
      const cos = Math.cos(radians(a))
      const sin = Math.sin(radians(a))
      const turn: Matrix = [cos, sin, -sin, cos, 0, 0]
      return compose([1, 0, 0, 1, b, c], compose(turn, [1, 0, 0, 1, -b, -c]))
    }
    case 'skewX':
      return [1, 0, Math.tan(radians(a)), 1, 0, 0]
    case 'skewY':
      return [1, Math.tan(radians(a)), 0, 1, 0, 0]
    default:
      return IDENTITY
  }
}
