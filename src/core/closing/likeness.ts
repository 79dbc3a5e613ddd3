import { type DisplayList, type DisplayNode, nodeType } from '../display'
import { type Box, boxAround, boxCorners, compose, IDENTITY, type Matrix } from '../path'

/** Something drawn: what it looks like, where on the frame, and whether it may be drawn earlier or later than it is. */
interface Drawn {
  readonly look: string
  readonly box: Box | null
  readonly plain: boolean
}

/** Numbers to a hundredth, so that rounding tells nothing apart that no eye does. */
function rounded(value: unknown): unknown {
  if (typeof value === 'number') return Math.round(value * 100) / 100 + 0
  if (Array.isArray(value)) return value.map(rounded)
  if (!value || typeof value !== 'object') return value
  return Object.fromEntries(Object.entries(value).map(([key, part]) => [key, rounded(part)]))
}

function drawn(node: DisplayNode, outer: Matrix): Drawn[] {
  const matrix = compose(outer, node.transform)
  const { opacity, blend, filters = [] } = node
  const plain = blend === 'normal' && filters.length === 0
  const type = nodeType(node)
  const own = type.look(node, matrix)
  const effect = [opacity, blend, filters]
  if (!type.held) return [{ look: JSON.stringify(rounded([effect, own])), box: type.box(node, matrix), plain }]
  const held = type.held(node).flatMap((child) => drawn(child, matrix))
  if (plain && opacity === 1 && own === null) return held
  const looks = held.map(({ look }) => look)
  const around = boxAround(held.flatMap(({ box }) => (box ? boxCorners(box) : [])))
  return [{ look: JSON.stringify([rounded([effect, own, matrix.slice(0, 4)]), looks]), box: around, plain }]
}

/** The box around what nodes draw, placed; null where they draw nothing. */
export const drawnBox = (nodes: readonly DisplayNode[], matrix: Matrix): Box | null =>
  boxAround(nodes.flatMap((node) => drawn(node, matrix)).flatMap(({ box }) => (box ? boxCorners(box) : [])))

const overlap = (a: Box, b: Box): boolean =>
  a.x < b.x + b.width && b.x < a.x + a.width && a.y < b.y + b.height && b.y < a.y + a.height

const drawnIn = ({ nodes }: DisplayList): Drawn[] => nodes.flatMap((node) => drawn(node, IDENTITY))

/**
 * Whether two pictures of one loop are the same, though like layers may have changed places in it. What is drawn at
 * another place in the order must be plain and lie clear of everything that it would have to pass.
 */
export function showsTheSame(a: DisplayList, b: DisplayList): boolean {
  const first = drawnIn(a)
  const second = drawnIn(b)
  if (first.length !== second.length) return false
  const moved = first.flatMap((each, i) => (each.look === second[i]?.look ? [] : [i]))
  const low = moved[0]
  const high = moved.at(-1)
  if (low === undefined || high === undefined) return true
  const looks = (list: readonly Drawn[]) => moved.map((i) => list[i]?.look).sort()
  const others = looks(second)
  if (!looks(first).every((look, i) => look === others[i])) return false
  return [first, second].every((list) => {
    const between = list.slice(low, high + 1)
    return moved.every((i) => {
      const each = list[i] as Drawn
      return (
        each.plain &&
        between.every((other) => other === each || !other.box || !each.box || !overlap(other.box, each.box))
      )
    })
  })
}
