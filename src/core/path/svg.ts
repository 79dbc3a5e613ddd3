import { SVGPathData } from 'svg-pathdata'
import type { Path, PathSegment } from './path'

/** The longest path data that a document holds, in characters. */
export const MAX_PATH_DATA = 200_000

function read(data: string): Path | null {
  try {
    const { commands } = new SVGPathData(data).toAbs().normalizeHVZ(false, true, true).normalizeST().qtToC().aToC()
    const path: PathSegment[] = []
    for (const command of commands) {
      if (command.type === SVGPathData.MOVE_TO) path.push(['M', command.x, command.y])
      else if (command.type === SVGPathData.LINE_TO) path.push(['L', command.x, command.y])
      else if (command.type === SVGPathData.CURVE_TO)
        path.push(['C', command.x1, command.y1, command.x2, command.y2, command.x, command.y])
      else if (command.type === SVGPathData.CLOSE_PATH) path.push(['Z'])
      else return null
    }
    const finite = path.every(([, ...numbers]) => numbers.every((x) => Math.abs(x) <= 1e7))
    return finite && (path.length === 0 || path[0]?.[0] === 'M') ? path : null
  } catch {
    return null
  }
}

const known = new Map<string, Path | null>()

/**
 * The path that SVG path data describes, arcs and quadratic curves as cubic ones, or null where the text is none
 * (SVG 2, § 9.3). The same text gives the same object, so that what is measured of it can be kept.
 */
export function parsePath(data: string): Path | null {
  const found = known.get(data)
  if (found !== undefined) return found
  if (known.size > 500) known.clear()
  const path = data.length <= MAX_PATH_DATA ? read(data) : null
  known.set(data, path)
  return path
}

const EMPTY: Path = []

/** The path of data that is known to be sound; nothing where it is not. */
export const pathOf = (data: string): Path => parsePath(data) ?? EMPTY

/** Whether a path ends where it began. */
export const isClosed = (path: Path): boolean => path.at(-1)?.[0] === 'Z'

/** A path as the `d` of an SVG path element. */
export const svgPathData = (path: Path): string =>
  path.map(([letter, ...numbers]) => letter + numbers.map((x) => Number(x.toFixed(4))).join(' ')).join('')

/** The points of path data that a hand can take hold of: ends of its segments, and the handles of its curves. */
export interface PathPoint {
  /** Which segment of the path, and which of its points: 0 and 1 are handles of a curve, 2 its end. */
  readonly segment: number
  readonly part: 0 | 1 | 2
  readonly x: number
  readonly y: number
}

/** The last segment before the end of a closed path, where it ends at the path's begin: both are one point. */
function closingSegment(path: Path): number {
  const last = path.length - 2
  const begin = path[0]
  const end = path[last]
  if (!isClosed(path) || last < 1 || !begin || !end || begin[0] === 'Z' || end[0] === 'Z') return -1
  const [x, y] = end.slice(-2)
  return begin[1] === x && begin[2] === y ? last : -1
}

/** All points of path data, in the order of the path; where it closes, begin and end are one. */
export function pathPoints(data: string): PathPoint[] {
  const path = pathOf(data)
  const closing = closingSegment(path)
  return path.flatMap(([letter, ...numbers], segment): PathPoint[] => {
    if (letter === 'Z') return []
    const count = numbers.length / 2
    const points = Array.from({ length: count }, (_, i) => ({
      segment,
      part: (i + 3 - count) as PathPoint['part'],
      x: numbers[2 * i] as number,
      y: numbers[2 * i + 1] as number,
    }))
    return segment === closing ? points.slice(0, -1) : points
  })
}

/**
 * Path data with one of its points elsewhere. The end of a segment takes the handles on both of its sides with it, so
 * that the curve keeps its shape there; the begin of a closed path its end, too.
 */
export function movePathPoint(
  data: string,
  { segment, part }: Pick<PathPoint, 'segment' | 'part'>,
  x: number,
  y: number,
): string {
  const path = pathOf(data)
  const own = path[segment]
  if (!own || own[0] === 'Z') return data
  const [, ...numbers] = own
  const at = numbers.length - 6 + 2 * part
  const dx = x - (numbers[at] as number)
  const dy = y - (numbers[at + 1] as number)
  const closing = closingSegment(path)
  /** Segments that end at the point that is moved. */
  const ends = part !== 2 ? [] : segment === 0 && closing >= 0 ? [0, closing] : [segment]
  const moved = path.map((each, i): PathSegment => {
    const [letter, ...places] = each
    const shift = (index: number) => {
      places[index] = (places[index] as number) + dx
      places[index + 1] = (places[index + 1] as number) + dy
    }
    if (part !== 2 && i === segment) shift(at)
    if (ends.includes(i)) shift(places.length - 2)
    if (ends.includes(i) && letter === 'C') shift(2)
    if (ends.includes(i - 1) && letter === 'C') shift(0)
    return [letter, ...places] as unknown as PathSegment
  })
  return svgPathData(moved)
}
