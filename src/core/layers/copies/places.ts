import { fitLinks, type Links, type Matrix, pathOf, pathRuler } from '../../path'
import { shuffled } from '../../random'
import type { Values } from '../types'
import { type CopiesValues, MAX_COPIES } from './properties'

/** Where one copy stands, and how it differs. */
export interface CopyPlace {
  readonly transform: Matrix
  /** Cycles by which it is ahead of the first. */
  readonly shift: number
  /** 0 for the first copy, 1 for the last. */
  readonly share: number
}

const as = (values: Values) => values as unknown as CopiesValues

/** Whether nothing tells one copy from the next. */
export const isAlike = (values: Values): boolean => as(values).stagger === 0 && as(values).changes.length === 0

/** Whether copies that leave at one end come in at the other. */
export const isFigure = (values: Values): boolean => ['ring', 'path'].includes(as(values).arrangement)

/** How many copies stand on a path or ring, and how far apart; a pitch is fitted so that a whole number meets without a gap. */
export function linksOf(values: Values): Links {
  const { arrangement, spacing, count, pitch, radius, path } = as(values)
  const length = arrangement === 'ring' ? 2 * Math.PI * radius : pathRuler(pathOf(path)).length
  return spacing === 'count' || length === 0
    ? { count, pitch: length / count }
    : fitLinks(length, Math.max(pitch, length / MAX_COPIES))
}

export const roundCount = (values: Values): number => linksOf(values).count

/** How many copies there are, at the most where a moving pitch or radius changes that. */
export function copyCount(values: Values): number {
  const { arrangement, spacing, count, columns, rows } = as(values)
  if (arrangement === 'grid') return columns * rows
  return arrangement === 'row' || spacing === 'count' ? count : linksOf(values).count
}

function turnedBy(degrees: number, x: number, y: number): Matrix {
  const angle = (degrees * Math.PI) / 180
  return [Math.cos(angle), Math.sin(angle), -Math.sin(angle), Math.cos(angle), x, y]
}

/** Remainder of a shift if all copies are alike: a row that has moved by a whole pitch is back where it was. */
const within = (values: Values, shift: number) => (isAlike(values) ? shift - Math.floor(shift + 1e-9) : shift)

/** Transforms of the copies in order, with their distance from the middle in places. */
function transforms(values: Values): { transform: Matrix; away: number }[] {
  const { arrangement, count, columns, rows, pitch, pitchY, direction, radius, path, turned, shift } = as(values)
  const moved = within(values, shift)
  switch (arrangement) {
    case 'row': {
      const apart = rowOf(values)?.pitch ?? 0
      const angle = (direction * Math.PI) / 180
      return Array.from({ length: count }, (_, i) => {
        const middle = i - (count - 1) / 2
        const along = (middle + moved) * apart
        return {
          transform: [1, 0, 0, 1, along * Math.cos(angle), along * Math.sin(angle)],
          away: Math.abs(middle),
        }
      })
    }
    case 'grid':
      return Array.from({ length: columns * rows }, (_, i) => {
        const dx = (i % columns) - (columns - 1) / 2
        const dy = Math.floor(i / columns) - (rows - 1) / 2
        return { transform: [1, 0, 0, 1, (dx + moved) * pitch, dy * pitchY], away: Math.hypot(dx, dy) }
      })
    case 'ring': {
      const links = linksOf(values)
      return Array.from({ length: links.count }, (_, i) => {
        const degrees = ((i + moved) * 360) / links.count
        const angle = (degrees * Math.PI) / 180
        const x = radius * Math.sin(angle)
        const y = -radius * Math.cos(angle)
        return {
          transform: turned === 'turned' ? turnedBy(degrees, x, y) : [1, 0, 0, 1, x, y],
          away: Math.min(i, links.count - i),
        }
      })
    }
    case 'path': {
      const ruler = pathRuler(pathOf(path))
      const links = linksOf(values)
      return Array.from({ length: links.count }, (_, i) => {
        const place = i + moved
        const { x, y, angle } = ruler.at((place - Math.floor(place / links.count) * links.count) * links.pitch)
        return {
          transform: turned === 'turned' ? turnedBy(angle, x, y) : [1, 0, 0, 1, x, y],
          away: Math.abs(i - (links.count - 1) / 2),
        }
      })
    }
  }
}

/** Where every copy stands, first to last. */
export function placesOf(values: Values): CopyPlace[] {
  const { stagger, staggerBy, seed } = as(values)
  const placed = transforms(values)
  const order = stagger !== 0 && staggerBy === 'shuffle' ? shuffled(placed.length, seed) : null
  return placed.map(({ transform, away }, i) => ({
    transform,
    shift: stagger * (order?.[i] ?? (staggerBy === 'centre' ? away : i)),
    share: placed.length > 1 ? i / (placed.length - 1) : 0,
  }))
}

/**
 * Where a copy leaves, and where one comes in in its stead, as copies move on by a whole place: the two ends of a row, of each row of
 * a grid, of an open path. Null where nothing leaves: on a ring, a closed path, and in rows whose copies differ.
 */
export function endPlaces(values: Values): readonly Matrix[] | null {
  const { arrangement, path, rows, columns } = as(values)
  if (arrangement === 'ring' || (arrangement === 'path' && pathRuler(pathOf(path)).closed)) return null
  if (!isFigure(values) && !isAlike(values)) return null
  const first = transforms({ ...values, shift: 0 })
  const last = transforms({ ...values, shift: JUST_LEAVING })
  const at = (list: readonly { transform: Matrix }[], i: number) => list[i]?.transform
  const ends =
    arrangement === 'grid'
      ? Array.from({ length: rows }, (_, row) => [
          at(first, row * columns),
          at(last, row * columns + columns - 1),
        ]).flat()
      : [at(first, 0), at(last, last.length - 1)]
  return ends.filter((place) => place !== undefined)
}

/** A copy that has come to the end of its place. */
const JUST_LEAVING = 1 - 1e-6

/** The row that copies are, or that each line of their grid is; null for a ring or a path. */
export function rowOf(values: Values) {
  const { arrangement, spacing, count, columns, pitch, span, direction } = as(values)
  if (arrangement === 'grid')
    return { count: columns, what: 'columns', pitch, degrees: 0, of: (wanted: number): Values => ({ columns: wanted }) }
  if (arrangement !== 'row') return null
  const apart = spacing === 'pitch' ? pitch : count > 1 ? span / (count - 1) : 0
  return {
    count,
    what: 'copies',
    pitch: apart,
    degrees: direction,
    of: (wanted: number): Values => ({ count: wanted, spacing: 'pitch', pitch: Number(apart.toFixed(6)) }),
  }
}
