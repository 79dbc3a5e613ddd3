import type { Box } from '../path'

/** A line along which a moved box lies with something else, and the gap between the two along it. */
export interface SnapGuide {
  /** `x`: an upright line at that x; `y`: a level one. */
  readonly axis: 'x' | 'y'
  readonly at: number
  /** Where along the line it is drawn, from … to. */
  readonly from: number
  readonly to: number
  /** px between the two boxes along the line; 0 where they touch or overlap. */
  readonly distance: number
}

export interface Snap {
  readonly dx: number
  readonly dy: number
  readonly guides: readonly SnapGuide[]
}

type Edges = readonly [low: number, middle: number, high: number]
const edgesX = ({ x, width }: Box): Edges => [x, x + width / 2, x + width]
const edgesY = ({ y, height }: Box): Edges => [y, y + height / 2, y + height]

interface Match {
  readonly shift: number
  readonly at: number
  readonly target: Box
}

/** The smallest shift, within the tolerance, that puts an edge or the middle of a box on one of another box. */
function nearestMatch(box: Box, targets: readonly Box[], edges: (box: Box) => Edges, tolerance: number): Match | null {
  let best: Match | null = null
  for (const target of targets)
    for (const own of edges(box))
      for (const at of edges(target)) {
        const shift = at - own
        if (Math.abs(shift) <= tolerance && (!best || Math.abs(shift) < Math.abs(best.shift)))
          best = { shift, at, target }
      }
  return best
}

/** Gap between two stretches; 0 where they overlap. */
const gap = (a: Edges, b: Edges): number => Math.max(0, b[0] - a[2], a[0] - b[2])

/**
 * How far a moved box must shift to lie with others (edges and middles, x and y apart), and the guides that say so.
 * @param targets boxes in the same coordinates: the frame and the other layers
 * @param tolerance px; 0 only finds what lies together already
 */
export function snapBox(box: Box, targets: readonly Box[], tolerance: number): Snap {
  const matchX = nearestMatch(box, targets, edgesX, tolerance)
  const matchY = nearestMatch(box, targets, edgesY, tolerance)
  const dx = matchX?.shift ?? 0
  const dy = matchY?.shift ?? 0
  const moved = { ...box, x: box.x + dx, y: box.y + dy }
  const guides: SnapGuide[] = []
  const addGuide = (axis: 'x' | 'y', { at, target }: Match, along: (box: Box) => Edges) => {
    const own = along(moved)
    const other = along(target)
    guides.push({
      axis,
      at,
      from: Math.min(own[0], other[0]),
      to: Math.max(own[2], other[2]),
      distance: gap(own, other),
    })
  }
  if (matchX) addGuide('x', matchX, edgesY)
  if (matchY) addGuide('y', matchY, edgesX)
  return { dx, dy, guides }
}

/** The four distances from a box to the frame around it: top, right, bottom, left; negative where it sticks out. */
export const distancesToFrame = (box: Box, width: number, height: number) => ({
  top: box.y,
  right: width - box.x - box.width,
  bottom: height - box.y - box.height,
  left: box.x,
})
