/** A path in the sense of SVG: move, line, cubic Bézier, close. Coordinates in px of the layer. */
export type PathSegment =
  | readonly ['M', number, number]
  | readonly ['L', number, number]
  | readonly ['C', number, number, number, number, number, number]
  | readonly ['Z']
export type Path = readonly PathSegment[]

export interface Point {
  readonly x: number
  readonly y: number
}

/** A 2D affine transform as canvas and SVG write it: x′ = a·x + c·y + e, y′ = b·x + d·y + f. */
export type Matrix = readonly [a: number, b: number, c: number, d: number, e: number, f: number]
export const IDENTITY: Matrix = [1, 0, 0, 1, 0, 0]

/** The transform that applies `inner` first, then `outer`. */
export const compose = (outer: Matrix, inner: Matrix): Matrix => {
  const [a, b, c, d, e, f] = outer
  const [g, h, i, j, k, l] = inner
  return [a * g + c * h, b * g + d * h, a * i + c * j, b * i + d * j, a * k + c * l + e, b * k + d * l + f]
}
export const transformPoint = ([a, b, c, d, e, f]: Matrix, { x, y }: Point): Point => ({
  x: a * x + c * y + e,
  y: b * x + d * y + f,
})

/** The inverse transform, or null where the transform flattens the plane. */
export function invert([a, b, c, d, e, f]: Matrix): Matrix | null {
  const det = a * d - b * c
  if (Math.abs(det) < 1e-12) return null
  return [d / det, -b / det, -c / det, a / det, (c * f - d * e) / det, (b * e - a * f) / det]
}

/** How many times as large areas become, as a side of a square: the scale of a transform where that is even. */
export const scaleOf = ([a, b, c, d]: Matrix): number => Math.sqrt(Math.abs(a * d - b * c))

/** An axis-aligned box in px. */
export interface Box {
  readonly x: number
  readonly y: number
  readonly width: number
  readonly height: number
}

export const boxCorners = ({ x, y, width, height }: Box): readonly Point[] => [
  { x, y },
  { x: x + width, y },
  { x: x + width, y: y + height },
  { x, y: y + height },
]

/** The smallest box around points; null where there are none. */
export function boxAround(points: readonly Point[]): Box | null {
  if (points.length === 0) return null
  const xs = points.map((p) => p.x)
  const ys = points.map((p) => p.y)
  const x = Math.min(...xs)
  const y = Math.min(...ys)
  return { x, y, width: Math.max(...xs) - x, height: Math.max(...ys) - y }
}

export const boxCentre = ({ x, y, width, height }: Box): Point => ({ x: x + width / 2, y: y + height / 2 })

export const boxHolds = (box: Box, { x, y }: Point): boolean =>
  x >= box.x && y >= box.y && x <= box.x + box.width && y <= box.y + box.height

/** A closed polygon through points. */
export const polygonPath = (points: readonly Point[]): Path => [
  ...points.map(({ x, y }, i): PathSegment => [i === 0 ? 'M' : 'L', x, y]),
  ['Z'],
]

/** A circular or elliptic arc of up to an eighth of a turn is followed by a cubic within 4·10⁻⁶ of its radius. */
const EIGHTH = Math.PI / 4
const ARC_HANDLE = (4 / 3) * Math.tan(EIGHTH / 4)

/** An ellipse about (0, 0), clockwise from the top, so that a drawn span grows as a hand of a clock turns. */
export function ellipsePath(radiusX: number, radiusY: number): Path {
  const path: PathSegment[] = [['M', 0, -radiusY]]
  for (let i = 0; i < 8; i++) path.push(arcEighth(0, 0, radiusX, radiusY, i * EIGHTH - Math.PI / 2))
  return [...path, ['Z']]
}

function arcEighth(cx: number, cy: number, rx: number, ry: number, from: number): PathSegment {
  const to = from + EIGHTH
  const c0 = Math.cos(from)
  const s0 = Math.sin(from)
  const c1 = Math.cos(to)
  const s1 = Math.sin(to)
  return [
    'C',
    cx + rx * (c0 - ARC_HANDLE * s0),
    cy + ry * (s0 + ARC_HANDLE * c0),
    cx + rx * (c1 + ARC_HANDLE * s1),
    cy + ry * (s1 - ARC_HANDLE * c1),
    cx + rx * c1,
    cy + ry * s1,
  ]
}

/** A rectangle about (0, 0) with round corners, clockwise from the top middle. */
export function roundedRectanglePath(width: number, height: number, radius: number): Path {
  const w = width / 2
  const h = height / 2
  const r = Math.max(0, Math.min(radius, w, h))
  const path: PathSegment[] = [['M', 0, -h]]
  const corners = [
    [w - r, -h + r, -Math.PI / 2],
    [w - r, h - r, 0],
    [-w + r, h - r, Math.PI / 2],
    [-w + r, -h + r, Math.PI],
  ] as const
  for (const [cx, cy, from] of corners) {
    path.push(['L', cx + r * Math.cos(from), cy + r * Math.sin(from)])
    if (r > 0) path.push(arcEighth(cx, cy, r, r, from), arcEighth(cx, cy, r, r, from + EIGHTH))
  }
  return [...path, ['Z']]
}

/** A path with every point moved by a transform. */
export const transformPath = (path: Path, matrix: Matrix): Path =>
  path.map((segment): PathSegment => {
    const [letter, ...numbers] = segment
    const moved: number[] = []
    for (let i = 0; i < numbers.length; i += 2) {
      const { x, y } = transformPoint(matrix, { x: numbers[i] as number, y: numbers[i + 1] as number })
      moved.push(x, y)
    }
    return [letter, ...moved] as unknown as PathSegment
  })

/** The box around all points of a path, handles included; null for an empty one. */
export const pathBox = (path: Path): Box | null =>
  boxAround(
    path.flatMap(([, ...numbers]) =>
      Array.from({ length: numbers.length / 2 }, (_, i) => ({
        x: numbers[2 * i] as number,
        y: numbers[2 * i + 1] as number,
      })),
    ),
  )
