import type { Path, Point } from './path'
import { type Cubic, cubicSpeed, GAUSS, pathPieces } from './span'
import { isClosed } from './svg'

/** A place on a path: where it is and which way the path goes there, in degrees clockwise from the x axis. */
interface PathPlace extends Point {
  readonly angle: number
}

/** A path measured once, to be asked for places along it by true length. */
export interface PathRuler {
  /** px */
  readonly length: number
  readonly closed: boolean
  /** Place at a distance in px along the path; on a closed path round and round, on an open one held at its ends. */
  readonly at: (distance: number) => PathPlace
}

/** Parts into which a curve is cut for measuring; a place is then sought within one of them. */
const PARTS = 64

interface MeasuredPiece {
  readonly curve: Cubic
  readonly straight: boolean
  /** Distance at which it begins. */
  readonly from: number
  /** Length from its begin to t = i/PARTS, PARTS + 1 values. */
  readonly marks: readonly number[]
  /** Parts in which the curve all but stands still and turns, so that they are cut further. */
  readonly sharp: ReadonlySet<number>
}

function partLength(curve: Cubic, from: number, to: number): number {
  let sum = 0
  for (const [node, weight] of GAUSS)
    sum += (weight * cubicSpeed(curve, from + ((node + 1) / 2) * (to - from)) * (to - from)) / 2
  return sum
}

/** As far as a part may be off its halves, as a share of its curve's size, before it is cut further; and how often. */
const OFF = 1e-7
const MAX_SPLITS = 14

/** partLength where the curve turns sharply: halved until the halves agree with the whole. */
function sharpLength(curve: Cubic, from: number, to: number, slack: number, depth = 0): number {
  const whole = partLength(curve, from, to)
  const middle = (from + to) / 2
  const halves = partLength(curve, from, middle) + partLength(curve, middle, to)
  if (Math.abs(halves - whole) <= slack || depth >= MAX_SPLITS) return halves
  return sharpLength(curve, from, middle, slack, depth + 1) + sharpLength(curve, middle, to, slack, depth + 1)
}

/** The parameter at a distance from the curve's begin: Newton within its part, held there. */
function parameterAt({ curve, marks, straight, sharp }: MeasuredPiece, distance: number): number {
  const length = marks[PARTS] as number
  if (straight) return distance / length
  const measured = (from: number, to: number, part: number) =>
    sharp.has(part) ? sharpLength(curve, from, to, OFF * length) : partLength(curve, from, to)
  let part = 0
  while (part < PARTS - 1 && (marks[part + 1] as number) < distance) part++
  const low = part / PARTS
  const high = (part + 1) / PARTS
  const before = marks[part] as number
  const after = marks[part + 1] as number
  let a = low
  let b = high
  let t = after > before ? low + ((distance - before) / (after - before)) * (high - low) : low
  for (let i = 0; i < 24; i++) {
    const error = before + measured(low, t, part) - distance
    if (Math.abs(error) < 1e-7 * length) break
    if (error > 0) b = t
    else a = t
    const slope = cubicSpeed(curve, t)
    const next = slope > 0 ? t - error / slope : t
    t = next > a && next < b ? next : (a + b) / 2
  }
  return t
}

function pointAndAngle([p0, p1, p2, p3]: Cubic, t: number): PathPlace {
  const s = 1 - t
  const at = (a: number, b: number, c: number, d: number) =>
    s * s * s * a + 3 * s * s * t * b + 3 * s * t * t * c + t * t * t * d
  const slope = (a: number, b: number, c: number, d: number) => s * s * (b - a) + 2 * s * t * (c - b) + t * t * (d - c)
  let dx = slope(p0.x, p1.x, p2.x, p3.x)
  let dy = slope(p0.y, p1.y, p2.y, p3.y)
  if (Math.hypot(dx, dy) < 1e-9) [dx, dy] = t < 0.5 ? [p2.x - p0.x, p2.y - p0.y] : [p3.x - p1.x, p3.y - p1.y]
  return {
    x: at(p0.x, p1.x, p2.x, p3.x),
    y: at(p0.y, p1.y, p2.y, p3.y),
    angle: (Math.atan2(dy, dx) * 180) / Math.PI,
  }
}

function measure(path: Path): PathRuler {
  const pieces: MeasuredPiece[] = []
  let total = 0
  for (const { curve, straight, length } of pathPieces(path)) {
    const marks = [0]
    const sharp = new Set<number>()
    for (let i = 0; i < PARTS; i++) {
      const from = i / PARTS
      const to = (i + 1) / PARTS
      const slack = OFF * length
      const part = straight ? length / PARTS : sharpLength(curve, from, to, slack)
      if (!straight && Math.abs(part - partLength(curve, from, to)) > slack) sharp.add(i)
      marks.push((marks[i] as number) + part)
    }
    pieces.push({ curve, straight, from: total, marks, sharp })
    total += marks[PARTS] as number
  }
  const closed = isClosed(path)
  const at = (distance: number): PathPlace => {
    if (pieces.length === 0) return { x: 0, y: 0, angle: 0 }
    const along = closed ? distance - Math.floor(distance / total) * total : Math.min(total, Math.max(0, distance))
    let low = 0
    let high = pieces.length - 1
    while (low < high) {
      const middle = (low + high + 1) >> 1
      if ((pieces[middle] as MeasuredPiece).from <= along) low = middle
      else high = middle - 1
    }
    const piece = pieces[low] as MeasuredPiece
    return pointAndAngle(piece.curve, Math.min(1, Math.max(0, parameterAt(piece, along - piece.from))))
  }
  return { length: total, closed, at }
}

const measured = new WeakMap<Path, PathRuler>()

/** A ruler along a path; the same path is measured once. */
export function pathRuler(path: Path): PathRuler {
  const found = measured.get(path)
  if (found) return found
  const ruler = measure(path)
  measured.set(path, ruler)
  return ruler
}

/** Places along a path. */
export interface Links {
  /** How many stand on the path at once. */
  readonly count: number
  /** px from one to the next. */
  readonly pitch: number
}

/**
 * How links are spread over a path of length L at a wanted pitch p: k = round(L/p), at least one, at pitch L/k, so that
 * a whole number of them meets without a gap.
 */
export function fitLinks(length: number, wantedPitch: number): Links {
  const count = Math.max(1, Math.round(length / wantedPitch))
  return { count, pitch: length / count }
}
